import { computed, ref } from 'vue'

/** A change that could not be sent: it is kept in this browser until it can. */
export interface Kept {
  url: string
  body: string
  act: string
  who: string
  /** When it was done, by the server's clock. */
  at: number
  tries?: number
  refused?: string
}

/**
 * What may be kept while the server is away: facts of the bench and texts of fields. Whatever means "the last one", the
 * scale, and whole files are never kept: what they meant may have changed by then.
 */
const MAY_BE_KEPT = [
  /\/bench\/[^/]+\/((hands|finish|enough|count|broke|off|on))\//,
  /\/bench\/[^/]+\/weigh$/,
  /\/pieces\/\d+\/more\/\d+$/,
  /\/timers(\/[^/]+\/answer)?$/,
  /\/rows\/(tools|lots|commissions|pieces)(\/\d+)?$/,
  /\/s\/[^/]+\/kitchen$/,
]
export const mayBeKept = (url: string) => MAY_BE_KEPT.some((r) => r.test(url.split('?')[0] ?? ''))

const KEY = 'dustyfern-outbox'
/** So often the server may fail at one change before it is shown instead of sent again. */
const TRIES = 3

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

/** Keeps a change under its number. */
export function keep(k: Kept) {
  write([...read().filter((o) => o.act !== k.act), k])
}

export function forget(act: string) {
  write(read().filter((k) => k.act !== act))
}

function note(act: string, change: Partial<Kept>) {
  write(read().map((o) => (o.act === act ? { ...o, ...change } : o)))
}

/** Lets a change that was refused be sent once more. */
export function again(act: string) {
  note(act, { refused: undefined, tries: 0 })
}

/** What waits to be sent of a step: presses, by how much the count was set right, how many broke. */
export function keptOf(op: string) {
  const of = { presses: 0, by: 0, broke: 0 }
  for (const k of kept.value) {
    if (k.refused) continue
    const [, does, rest = ''] = k.url.split(`/bench/${op}/`)[1]?.match(/^(\w+)\/\d+\/?([^?]*)/) ?? []
    if (does === 'hands' || does === 'finish') of.presses++
    if (does === 'count') of.by += Number(rest)
    if (does === 'broke') of.broke++
  }
  return of
}
/** Whether more of a piece was asked for and waits to be sent. */
export const keptMore = (piece: number) =>
  kept.value.some((k) => !k.refused && k.url.includes(`/pieces/${piece}/more/`))

/** The text that waits to be sent for a field of a row, if there is one. */
export function pendingText(url: string, name: string): string | undefined {
  for (const k of [...kept.value].reverse()) {
    if (!k.url.endsWith(url) || k.refused) continue
    const set = (JSON.parse(k.body || '{}') as { set?: Record<string, string> }).set
    if (set && name in set) return set[name]
  }
  return undefined
}

async function says(answer: Response): Promise<string> {
  const problem = (await answer.json().catch(() => ({}))) as { detail?: string }
  return problem.detail ?? answer.statusText
}

let sending = false

/**
 * Sends what was kept, in order, one window at a time. What is refused, or what the server fails at three times, stays
 * with the reason and does not hold up what comes after it.
 */
export async function flush(post: (k: Kept) => Promise<Response>): Promise<boolean> {
  if (sending || !read().some((k) => !k.refused)) return false
  sending = true
  let sent = false
  try {
    await navigator.locks.request('dustyfern-outbox', async () => {
      for (const k of read()) {
        if (k.refused) continue
        const answer = await post(k)
        if (answer.status === 503) return // the database is away: all of it waits
        if (answer.ok) forget(k.act)
        else if (answer.status < 500) note(k.act, { refused: await says(answer) })
        else if ((k.tries ?? 0) + 1 >= TRIES) note(k.act, { refused: await says(answer), tries: TRIES })
        else note(k.act, { tries: (k.tries ?? 0) + 1 })
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
