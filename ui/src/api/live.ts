import { onBeforeUnmount, onMounted, watch, type Ref } from 'vue'
import { flying, reached, sendKept } from './client'
import { heard, jumpedTo } from './clock'
import { waiting } from './outbox'
import { cache, forgetHeld, olderThan } from './queries'

type Word = { event: 'hello' | 'changed' | 'clock' | 'away'; now?: number; told?: number }

/**
 * Follows the studio: one window of this browser holds the stream of events
 * and passes each word on to the others. What was read after a change, as after
 * one of this window's own, is not read again.
 */
export function useLive(studio: Ref<string>) {
  let channel: BroadcastChannel | undefined
  let source: EventSource | undefined
  let letGo: (() => void) | undefined
  let gone = false
  let held: Word | undefined // a change heard of while an act is on its way

  function readAnew() {
    void cache.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'blank' })
  }
  /** Views that were read before so many changes, once what is being read has come. */
  async function readOlder(told: number) {
    if (cache.isFetching())
      await new Promise<void>((done) => {
        const off = cache.getQueryCache().subscribe(() => {
          if (cache.isFetching()) return
          off()
          done()
        })
      })
    void cache.invalidateQueries({ predicate: olderThan(told) })
  }
  async function hear(w: Word) {
    // a clock that has jumped (the machine slept, or was set) makes everything old
    const jumped = w.now !== undefined && jumpedTo(w.now)
    if (w.now !== undefined) heard(w.now)
    if (w.event === 'away') {
      reached.value = false
      gone = true
      return
    }
    const was = gone
    if (gone || !reached.value) {
      gone = false
      reached.value = true
    }
    if (w.event === 'hello') await sendKept()
    if (w.event === 'changed' && flying.value > 0) {
      held = w
      return
    }
    if (jumped || was) readAnew()
    else if (w.event === 'hello') void readOlder(w.told ?? 0)
    else if (w.event === 'changed') void readOlder(w.told || Infinity) // 0: words may have been missed
  }
  watch(flying, (n) => {
    const w = held
    if (n > 0 || !w) return
    held = undefined
    void hear(w)
  })
  function say(w: Word) {
    channel?.postMessage(w)
    void hear(w)
  }
  function listen(slug: string) {
    source = new EventSource(`/api/s/${slug}/events`)
    for (const event of ['hello', 'changed', 'clock'] as const)
      source.addEventListener(event, (e) =>
        say({ event, ...(JSON.parse((e as MessageEvent<string>).data) as { now: number; told?: number }) }),
      )
    source.onerror = () => {
      // refused (there is no such studio, or no database just now): it answers, so it is not away
      if (source?.readyState === EventSource.CLOSED) window.setTimeout(() => letGo && listen(slug), 5000)
      else say({ event: 'away' }) // the browser tries again by itself
    }
  }
  function start(slug: string) {
    if (!slug) return
    forgetHeld()
    channel = new BroadcastChannel(`dustyfern-${slug}`)
    channel.onmessage = (e: MessageEvent<Word>) => void hear(e.data)
    const open = new Promise<void>((done) => (letGo = done))
    void navigator.locks.request(`dustyfern-live-${slug}`, () => {
      if (letGo) listen(slug)
      return open
    })
  }
  function stop() {
    source?.close()
    channel?.close()
    letGo?.()
    source = channel = letGo = held = undefined
  }
  // what waits to be sent is tried again while the stream says nothing of it
  let again = 0
  async function retry() {
    if (waiting.value && reached.value && (await sendKept())) readAnew()
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
