import { reactive, toValue, type MaybeRefOrGetter } from 'vue'
import { api, Refused, take, type Choice, type Kind } from '../api/client'
import { cache, useAct } from '../api/queries'

export interface Clash {
  yours: string
  theirs: string
  version: number
}

/** What was refused stays in its field, marked, over a change of place, until it is mended. */
const refused = reactive(new Map<string, Record<string, { text: string; error: string }>>())

/** Saves fields of one row as they are typed; what cannot be saved stays in its field, with the reason. */
export function useSaving(row: MaybeRefOrGetter<{ kind: Kind | 'kitchen' | 'ways'; id: number; version: number }>) {
  const key = () => `${location.pathname.split('/')[2]} ${toValue(row).kind} ${toValue(row).id}`
  const refusedText = (name: string) => refused.get(key())?.[name]?.text
  const errors = reactive<Record<string, string>>(
    Object.fromEntries(Object.entries(refused.get(key()) ?? {}).map(([name, x]) => [name, x.error])),
  )
  function refuse(name: string, text: string, error: string) {
    errors[name] = error
    refused.set(key(), { ...refused.get(key()), [name]: { text, error } })
  }
  function mended(name: string) {
    delete errors[name]
    const rest = { ...refused.get(key()) }
    delete rest[name]
    refused.set(key(), rest)
  }
  const clashes = reactive<Record<string, Clash>>({})
  const saved = reactive<Record<string, number>>({})
  const choices = reactive<Record<string, Choice[]>>({})
  const act = useAct(async (studio, set: { version: number; set: Record<string, string> }) => {
    const { kind, id } = toValue(row)
    if (kind === 'kitchen') {
      await take(api.POST('/s/{studio}/kitchen', { params: { path: { studio } }, body: set }))
    } else {
      await take(api.POST('/s/{studio}/rows/{kind}/{id}', { params: { path: { studio, kind, id } }, body: set }))
    }
  })
  // one after the other: a quick second change is made from what the first left
  let last: Promise<unknown> = Promise.resolve()
  function save(set: Record<string, string>, version?: () => number | undefined): Promise<boolean> {
    const next = last.then(() => send(set, version))
    last = next
    return next
  }
  async function send(set: Record<string, string>, version?: () => number | undefined): Promise<boolean> {
    try {
      await act.mutateAsync({ version: version?.() ?? toValue(row).version, set })
      for (const name of Object.keys(set)) {
        mended(name)
        delete clashes[name]
        delete choices[name]
        saved[name] = (saved[name] ?? 0) + 1
      }
      return true
    } catch (err) {
      const problem = err instanceof Refused ? err.problem : null
      if (problem?.status === 409 && problem.theirs) {
        for (const name of Object.keys(problem.theirs)) {
          clashes[name] = {
            yours: problem.yours?.[name] ?? '',
            theirs: problem.theirs[name] ?? '',
            version: problem.version ?? 0,
          }
        }
        void cache.invalidateQueries() // the other window's row is shown, what was typed here stays
        return false
      }
      if (problem?.status === 0) return false // kept: the field says so itself, until it is sent
      const detail = err instanceof Error ? err.message : 'It was not saved.'
      const marked = problem?.fields.filter((f) => f.field in set) ?? []
      for (const f of marked) {
        refuse(f.field, set[f.field] ?? '', f.detail)
        choices[f.field] = f.choices ?? []
      }
      if (marked.length === 0) for (const name of Object.keys(set)) refuse(name, set[name] ?? '', detail)
      return false
    }
  }
  return { errors, clashes, saved, choices, save, refusedText }
}
