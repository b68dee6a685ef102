import {
  hashKey,
  keepPreviousData,
  QueryClient,
  useMutation,
  useQuery,
  useQueryClient,
  type Query,
  type QueryKey,
} from '@tanstack/vue-query'
import { computed, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { useRoute } from 'vue-router'
import { api, holds, Refused, take, type BenchView, type Kind, type PieceView } from './client'

export const cache = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (n, err) => n < 2 && !(err instanceof Refused && err.problem.status >= 400 && err.problem.status < 500),
      staleTime: 5_000,
      refetchOnWindowFocus: true,
    },
  },
})

// how many changes of the studio each view holds, by its key
const held = new Map<string, number>()

/** Reads a view and notes how many changes it holds. */
function noted<T>(read: () => Promise<T>) {
  return async ({ queryKey }: { queryKey: QueryKey }) => {
    const view = await read()
    held.set(hashKey(queryKey), holds(view))
    return view
  }
}

/** Another studio counts its changes anew. */
export const forgetHeld = () => held.clear()

/** Whether a view was read before so many changes. */
export const olderThan = (told: number) => (q: Query) =>
  q.queryKey[0] !== 'blank' && (held.get(q.queryHash) ?? -1) < told

/** The studio of the address. */
export function useStudio() {
  const route = useRoute()
  return computed(() => String(route.params.studio ?? ''))
}

interface Read {
  kept?: boolean // what was read of another stays in sight until this is there
  every?: number // ms
  retry?: false
  enabled?: () => boolean
}

/**
 * A view of the studio: kept under its name, the studio and what it was asked of, and read anew when one of them
 * changes.
 */
export function useView<T>(
  name: string,
  of: MaybeRefOrGetter<unknown>[],
  read: (studio: string) => Promise<T>,
  how: Read = {},
) {
  const studio = useStudio()
  return useQuery({
    queryKey: [name, studio, ...of.map((x) => computed(() => toValue(x)))],
    queryFn: noted(() => read(studio.value)),
    enabled: computed(() => studio.value !== '' && (how.enabled?.() ?? true)),
    ...(how.kept ? { placeholderData: keepPreviousData } : {}),
    ...(how.every ? { refetchInterval: how.every } : {}),
    ...(how.retry === false ? { retry: false } : {}),
  })
}

export const useKitchen = () =>
  useView('kitchen', [], (studio) => take(api.GET('/s/{studio}/kitchen', { params: { path: { studio } } })))

export const useCommissions = (skip: MaybeRefOrGetter<number>) =>
  useView(
    'commissions',
    [skip],
    (studio) =>
      take(api.GET('/s/{studio}/commissions', { params: { path: { studio }, query: { skip: toValue(skip) } } })),
    { kept: true, every: 60_000 },
  )

/** One piece with everything that follows from it, read when it is taken in hand. */
export function usePieceView(id: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery<PieceView>({
    queryKey: ['piece', studio, computed(() => toValue(id))],
    queryFn: noted(() =>
      take(api.GET('/s/{studio}/pieces/{id}', { params: { path: { studio: studio.value, id: toValue(id) } } })),
    ),
    enabled: computed(() => toValue(id) > 0),
    placeholderData: (old) => (old?.id === toValue(id) ? old : undefined),
  })
}

export const useCommission = (id: MaybeRefOrGetter<number>) =>
  useView(
    'commission',
    [id],
    (studio) => take(api.GET('/s/{studio}/commissions/{id}', { params: { path: { studio, id: toValue(id) } } })),
    { kept: true },
  )

export const useTools = () =>
  useView('tools', [], (studio) => take(api.GET('/s/{studio}/tools', { params: { path: { studio } } })))

export const usePantry = () =>
  useView('pantry', [], (studio) => take(api.GET('/s/{studio}/pantry', { params: { path: { studio } } })))

export const useLot = (id: MaybeRefOrGetter<number>) =>
  useView('lot', [id], (studio) =>
    take(api.GET('/s/{studio}/lots/{id}', { params: { path: { studio, id: toValue(id) } } })),
  )

/** Where good makers differ, and the side that this studio is on. */
export const useSchools = () =>
  useView('schools', [], (studio) => take(api.GET('/s/{studio}/schools', { params: { path: { studio } } })))

export const useNeeds = () =>
  useView('needs', [], (studio) => take(api.GET('/s/{studio}/needs', { params: { path: { studio } } })))

export const useColours = (id: MaybeRefOrGetter<number>) =>
  useView(
    'colours',
    [id],
    (studio) =>
      take(api.GET('/s/{studio}/commissions/{id}/colours', { params: { path: { studio, id: toValue(id) } } })),
    { kept: true },
  )

export const useTogether = (id: MaybeRefOrGetter<number>) =>
  useView(
    'together',
    [id],
    (studio) =>
      take(api.GET('/s/{studio}/commissions/{id}/together', { params: { path: { studio, id: toValue(id) } } })),
    { kept: true },
  )

/** A new row as a form; of a tool its kind. */
export function useBlank(kind: Kind, of: MaybeRefOrGetter<string> = '') {
  const studio = useStudio()
  return useQuery({
    queryKey: ['blank', kind, studio, computed(() => toValue(of))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/blank/{kind}', {
          params: { path: { studio: studio.value, kind }, query: { of: toValue(of) } },
        }),
      ),
  })
}

/** Kinds of tools, each with what it is drawn from. */
export const useToolKinds = () =>
  useView('toolKinds', [], (studio) => take(api.GET('/s/{studio}/tools/kinds', { params: { path: { studio } } })))

/** Ways of making, the studio's own first. */
export const useWays = () =>
  useView('ways', [], (studio) => take(api.GET('/s/{studio}/ways', { params: { path: { studio } } })))

export const useWay = (key: MaybeRefOrGetter<string>) =>
  useView(
    'way',
    [key],
    (studio) => take(api.GET('/s/{studio}/ways/{key}', { params: { path: { studio, key: toValue(key) } } })),
    { kept: true, enabled: () => toValue(key) !== '' },
  )

/** What a tool has made of late. */
export const useMade = (id: MaybeRefOrGetter<number>) =>
  useView('made', [id], (studio) =>
    take(api.GET('/s/{studio}/tools/{id}/made', { params: { path: { studio, id: toValue(id) } } })),
  )

/** How a piece stands round a tier of its order; count 0: as many as is usual. */
export const useRound = (
  id: MaybeRefOrGetter<number>,
  tier: MaybeRefOrGetter<number>,
  count: MaybeRefOrGetter<number>,
) =>
  useView(
    'round',
    [id, tier, count],
    (studio) =>
      take(
        api.GET('/s/{studio}/pieces/{id}/round', {
          params: { path: { studio, id: toValue(id) }, query: { tier: toValue(tier), count: toValue(count) } },
        }),
      ),
    { kept: true },
  )

/** What a new piece of a commission can begin from. */
export interface Wish {
  look: string
  count: string
  size: string
  eaten: '' | 'mouthful' | 'nibbled' | 'shown'
}

export const useOffers = (id: MaybeRefOrGetter<number>, wish: MaybeRefOrGetter<Wish>) =>
  useView(
    'offers',
    [id, () => ({ ...toValue(wish) })],
    (studio) =>
      take(
        api.GET('/s/{studio}/commissions/{id}/offers', {
          params: { path: { studio, id: toValue(id) }, query: { ...toValue(wish) } },
        }),
      ),
    { kept: true, retry: false },
  )

export interface LineAsked {
  commission: number
  from: string
  days: number
  by: '' | 'piece' | 'person'
}
export const useLine = (asked: MaybeRefOrGetter<LineAsked>) =>
  useView(
    'line',
    [asked],
    (studio) => take(api.GET('/s/{studio}/line', { params: { path: { studio }, query: toValue(asked) } })),
    { kept: true, every: 60_000 },
  )

/** Seven days as they go on paper. */
export const useWeek = (from: MaybeRefOrGetter<string>) =>
  useView(
    'week',
    [from],
    (studio) => take(api.GET('/s/{studio}/week', { params: { path: { studio }, query: { from: toValue(from) } } })),
    { kept: true },
  )

/** Hands against hours, and what is held, of four weeks. */
export const useWorkload = (from: MaybeRefOrGetter<string>) =>
  useView(
    'workload',
    [from],
    (studio) => take(api.GET('/s/{studio}/workload', { params: { path: { studio }, query: { from: toValue(from) } } })),
    { kept: true },
  )

/** What one pennant of the line says. */
export const useStep = (op: MaybeRefOrGetter<string>) =>
  useView(
    'step',
    [op],
    (studio) => take(api.GET('/s/{studio}/line/steps/{op}', { params: { path: { studio, op: toValue(op) } } })),
    { kept: true, enabled: () => toValue(op) !== '' },
  )

export const useJournal = (commission: MaybeRefOrGetter<number>, before: MaybeRefOrGetter<number>) =>
  useView(
    'journal',
    [commission, before],
    (studio) =>
      take(
        api.GET('/s/{studio}/journal', {
          params: { path: { studio }, query: { commission: toValue(commission), before: toValue(before) } },
        }),
      ),
    { kept: true },
  )

/** A step that hands took although it is not due: the bench shows it until something is done. */
export const inHand = ref('')

export function useBench() {
  const studio = useStudio()
  const client = useQueryClient()
  watch(inHand, () => void client.invalidateQueries({ queryKey: ['bench', studio.value] }))
  return useQuery({
    queryKey: ['bench', studio],
    queryFn: noted(() =>
      take(
        api.GET('/s/{studio}/bench', {
          params: { path: { studio: studio.value }, query: inHand.value ? { at: inHand.value } : {} },
        }),
      ),
    ),
    refetchInterval: 60_000,
  })
}

const ofStudio = (q: { queryKey: readonly unknown[] }) => !['blank', 'studios', 'scale'].includes(String(q.queryKey[0]))

/** A change of anything: every view of the studio is read anew afterwards. */
export function useAct<T, R>(act: (studio: string, input: T) => Promise<R>) {
  const studio = useStudio()
  const client = useQueryClient()
  return useMutation({
    mutationFn: (input: T) => act(studio.value, input),
    onSuccess: () => client.invalidateQueries({ predicate: ofStudio }),
  })
}

/**
 * An act at the bench: its answer is the bench as it is then, shown at once and not read again; other views are read
 * anew when they are looked at.
 */
export function useBenchAct<T>(act: (studio: string, input: T) => Promise<BenchView>) {
  const studio = useStudio()
  const client = useQueryClient()
  return useMutation({
    mutationFn: (input: T) => act(studio.value, input),
    onSuccess: async (bench) => {
      // a read that was on its way before the act knows less than its answer
      await client.cancelQueries({ queryKey: ['bench', studio.value] })
      client.setQueryData(['bench', studio.value], bench)
      // it is the bench after this act; of the kitchen nothing has changed by it
      const [n, kitchen] = [holds(bench), hashKey(['kitchen', studio.value])]
      held.set(hashKey(['bench', studio.value]), n)
      if (held.get(kitchen) === n - 1) held.set(kitchen, n)
      inHand.value = ''
      void client.invalidateQueries({
        predicate: (q) => ofStudio(q) && !['bench', 'kitchen'].includes(String(q.queryKey[0])),
      })
    },
  })
}
