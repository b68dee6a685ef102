import { computed, ref } from 'vue'

/** A change that could not be sent: it is kept in this browser until it can. */
export interface Kept {
  url: string
  body: string
  act: string
  who: string
  refused?: string
}

const KEY = 'dustyfern-outbox'

function read(): Kept[] {
  try {
    const all: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]')
    return Array.isArray(all) ? (all as Kept[]) : []
  } catch {
    return []
  }
}

export const kept = ref<Kept[]>(read())
export const waiting = computed(() => kept.value.filter((k) => !k.refused).length)
export const refused = computed(() => kept.value.filter((k) => k.refused))

function write(all: Kept[]) {
  kept.value = all
  try {
    localStorage.setItem(KEY, JSON.stringify(all))
  } catch {
    // a full or forbidden store: it lives as long as the window
  }
}
window.addEventListener('storage', (e) => {
  if (e.key === KEY) kept.value = read()
})

/** Keeps a change; a later one of the same fields of the same row takes its place. */
export function keep(k: Kept) {
  write([...read().filter((o) => o.act !== k.act), k])
}

export function forget(act: string) {
  write(read().filter((k) => k.act !== act))
}

/** The text that waits to be sent for a field of a row, if there is one. */
export function pendingText(url: string, name: string): string | undefined {
  for (const k of [...kept.value].reverse()) {
    if (!k.url.endsWith(url) || k.refused) continue
    const set = (JSON.parse(k.body || '{}') as { set?: Record<string, string> }).set
    if (set && name in set) return set[name]
  }
  return undefined
}

let sending = false

/** Sends what was kept, in order, one window at a time; what is refused stays, with the reason. */
export async function flush(post: (k: Kept) => Promise<Response>): Promise<boolean> {
  if (sending || !read().some((k) => !k.refused)) return false
  sending = true
  let sent = false
  try {
    await navigator.locks.request('dustyfern-outbox', async () => {
      for (const k of read()) {
        if (k.refused) continue
        const answer = await post(k)
        if (answer.status >= 500) return
        if (answer.ok) forget(k.act)
        else {
          const problem = (await answer.json().catch(() => ({}))) as { detail?: string }
          write(read().map((o) => (o.act === k.act ? { ...o, refused: problem.detail ?? answer.statusText } : o)))
        }
        sent = true
      }
    })
  } catch {
    // away again: the rest waits
  } finally {
    sending = false
  }
  return sent
}
