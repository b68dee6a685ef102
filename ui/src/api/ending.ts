import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, take, type Pass } from './client'
import { useAct, useView } from './queries'

/** What the last stages show of an order: the order at the cake and the card. */
export const useLeaving = (id: MaybeRefOrGetter<number>) =>
  useView('leaving', [id], (studio) =>
    take(api.GET('/s/{studio}/commissions/{id}/leaving', { params: { path: { studio, id: toValue(id) } } })),
  )

/** What is known so far of something that went wrong: it stands in the address. */
export interface Asked {
  op?: string
  technique?: string
  seen: string[]
  absent: string[]
  answers: string[]
}

export const useRescue = (asked: MaybeRefOrGetter<Asked>) =>
  useView(
    'rescue',
    [() => ({ ...toValue(asked) })],
    (studio) => take(api.GET('/s/{studio}/rescue', { params: { path: { studio }, query: toValue(asked) } })),
    { kept: true },
  )

export const useConfirm = () =>
  useAct((studio, c: { cause: string; asked: Asked }) =>
    take(
      api.POST('/s/{studio}/rescue/confirm/{cause}', {
        params: { path: { studio, cause: c.cause }, query: c.asked },
      }),
    ),
  )

export const useTake = () =>
  useAct((studio, c: { cause: string; at: number; asked: Asked }) =>
    take(
      api.POST('/s/{studio}/rescue/take/{cause}/{at}', {
        params: { path: { studio, cause: c.cause, at: c.at }, query: c.asked },
      }),
    ),
  )

export const useTones = () =>
  useAct((studio, c: { id: number; version: number; passes: Pass[] }) =>
    take(
      api.POST('/s/{studio}/pieces/{id}/tones', {
        params: { path: { studio, id: c.id } },
        body: { version: c.version, passes: c.passes },
      }),
    ),
  )

export const useJoinHeld = () =>
  useAct((studio, c: { id: number; did: 'held' | 'fell' }) =>
    take(api.POST('/s/{studio}/pieces/{id}/join/{did}', { params: { path: { studio, id: c.id, did: c.did } } })),
  )

export const useCountIn = () =>
  useAct((studio, c: { id: number; item: string; counted?: number }) =>
    take(
      api.POST('/s/{studio}/commissions/{id}/counted/{item}', {
        params: { path: { studio, id: c.id, item: c.item } },
        body: c.counted === undefined ? {} : { counted: c.counted },
      }),
    ),
  )

export const useClientKnows = () =>
  useAct((studio, c: { id: number; code: string; because: string; says: string }) =>
    take(
      api.POST('/s/{studio}/commissions/{id}/knows', {
        params: { path: { studio, id: c.id } },
        body: { code: c.code, because: c.because, says: c.says },
      }),
    ),
  )
