import { onBeforeUnmount, onMounted, ref } from 'vue'

// The server's clock is the only one: the browser adds what has passed since it
// last heard of it.
let offset = 0
let known = false

/** The server has said what time it is, in ms since 1970. */
export function heard(serverMs: number) {
  offset = serverMs - Date.now()
  known = true
}

/** The clock is not where it was going: the machine slept, or it was set. The first word of it is no jump. */
export const jumpedTo = (serverMs: number) => known && Math.abs(serverNow() - serverMs) > 30_000

export const serverNow = () => Date.now() + offset

/** The server's clock, ticking four times a second while the component is shown. */
export function useClock() {
  const now = ref(serverNow())
  let timer = 0
  onMounted(() => (timer = window.setInterval(() => (now.value = serverNow()), 250)))
  onBeforeUnmount(() => window.clearInterval(timer))
  return now
}

/** What is left until an instant: "8:05", "1 h 12", or how long it is over: "-0:40". */
export function left(ms: number): string {
  const s = Math.abs(Math.ceil(ms / 1000))
  const sign = ms < 0 ? '-' : ''
  if (s >= 3600) return `${sign}${Math.floor(s / 3600)} h ${String(Math.floor((s % 3600) / 60)).padStart(2, '0')}`
  return `${sign}${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`
}
