import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, take, type NoteIn, type TendIn } from './client'
import { useAct, useView } from './queries'

/** Every place where things dry, and its air. */
export const useRoom = () =>
  useView('room', [], (studio) => take(api.GET('/s/{studio}/room', { params: { path: { studio } } })), {
    every: 60_000,
  })

/** The air of a place over so many hours back, and what is expected next. */
export const useStrip = (rack: MaybeRefOrGetter<number>, hours: MaybeRefOrGetter<number>) =>
  useView(
    'strip',
    [rack, hours],
    (studio) =>
      take(
        api.GET('/s/{studio}/room/strip', {
          params: { path: { studio }, query: { rack: toValue(rack), hours: toValue(hours) } },
        }),
      ),
    { kept: true, every: 60_000 },
  )

export const useShelf = () =>
  useView('shelf', [], (studio) => take(api.GET('/s/{studio}/shelf', { params: { path: { studio } } })), {
    every: 60_000,
  })

/** What hands do to a batch that dries. */
export const useTend = () =>
  useAct((s, x: { op: string; body: TendIn; anyway: boolean }) =>
    take(
      api.POST('/s/{studio}/shelf/{op}', {
        params: { path: { studio: s, op: x.op }, query: { anyway: x.anyway } },
        body: x.body,
      }),
    ),
  )

/** One tap: what was seen of a batch. */
export const useNote = () =>
  useAct((s, body: NoteIn) => take(api.POST('/s/{studio}/notes', { params: { path: { studio: s } }, body })))

export const useNotebook = (find: MaybeRefOrGetter<string>, skip: MaybeRefOrGetter<number>) =>
  useView(
    'notebook',
    [find, skip],
    (studio) =>
      take(
        api.GET('/s/{studio}/notebook', {
          params: { path: { studio }, query: { find: toValue(find), skip: toValue(skip) } },
        }),
      ),
    { kept: true },
  )

export const useLearnt = () =>
  useView('learnt', [], (studio) => take(api.GET('/s/{studio}/notebook/learnt', { params: { path: { studio } } })))
