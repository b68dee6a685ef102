import { onBeforeUnmount, onMounted, watch, type Ref } from 'vue'
import { reached, sendKept } from './client'
import { heard, serverNow } from './clock'
import { waiting } from './outbox'
import { cache } from './queries'

type Word = { event: 'hello' | 'changed' | 'clock' | 'away'; now?: number }

/**
 * Follows the studio: one window of this browser holds the stream of events
 * and passes each word on to the others.
 */
export function useLive(studio: Ref<string>) {
  let channel: BroadcastChannel | undefined
  let source: EventSource | undefined
  let letGo: (() => void) | undefined
  let gone = false

  async function hear(w: Word) {
    // a clock that has jumped (the machine slept, or was set) makes everything old
    const jumped = w.now !== undefined && Math.abs(serverNow() - w.now) > 30_000
    if (w.now !== undefined) heard(w.now)
    if (w.event === 'away') {
      reached.value = false
      gone = true
      return
    }
    if (gone || !reached.value) {
      gone = false
      reached.value = true
    }
    if (w.event === 'hello') await sendKept()
    if (w.event !== 'clock' || jumped) void cache.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'blank' })
  }
  function say(w: Word) {
    channel?.postMessage(w)
    void hear(w)
  }
  function listen(slug: string) {
    source = new EventSource(`/api/s/${slug}/events`)
    for (const event of ['hello', 'changed', 'clock'] as const)
      source.addEventListener(event, (e) =>
        say({ event, now: (JSON.parse((e as MessageEvent<string>).data) as { now: number }).now }),
      )
    source.onerror = () => {
      // refused (there is no such studio, or no database just now): it answers, so it is not away
      if (source?.readyState === EventSource.CLOSED) window.setTimeout(() => letGo && listen(slug), 5000)
      else say({ event: 'away' }) // the browser tries again by itself
    }
  }
  function start(slug: string) {
    if (!slug) return
    channel = new BroadcastChannel(`dustyfern-${slug}`)
    channel.onmessage = (e: MessageEvent<Word>) => void hear(e.data)
    const held = new Promise<void>((done) => (letGo = done))
    void navigator.locks.request(`dustyfern-live-${slug}`, () => {
      if (letGo) listen(slug)
      return held
    })
  }
  function stop() {
    source?.close()
    channel?.close()
    letGo?.()
    source = channel = letGo = undefined
  }
  // what waits to be sent is tried again while the stream says nothing of it
  let again = 0
  async function retry() {
    if (waiting.value && reached.value && (await sendKept())) void cache.invalidateQueries()
  }
  onMounted(() => {
    start(studio.value)
    again = window.setInterval(() => void retry(), 3000)
  })
  watch(studio, (slug) => {
    stop()
    start(slug)
  })
  onBeforeUnmount(() => {
    window.clearInterval(again)
    stop()
  })
}
