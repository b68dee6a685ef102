import { useMutation, useQuery, useQueryClient, QueryClient } from '@tanstack/vue-query'
import { computed, onBeforeUnmount, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { useRoute } from 'vue-router'
import { api, noteTold, Refused, take, type BenchView, type HeatView, type Kind, type WeightView } from './client'

export const cache = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (n, err) => n < 2 && !(err instanceof Refused && err.problem.status >= 400 && err.problem.status < 500),
      staleTime: 5_000,
      refetchOnWindowFocus: true,
    },
  },
})

/** The studio of the address. */
export function useStudio() {
  const route = useRoute()
  return computed(() => String(route.params.studio ?? ''))
}

export function useKitchen() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['kitchen', studio],
    queryFn: async () => {
      const k = await take(api.GET('/s/{studio}/kitchen', { params: { path: { studio: studio.value } } }))
      noteTold(k.told)
      return k
    },
    enabled: computed(() => studio.value !== ''),
  })
}

export function useCommissions(skip: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['commissions', studio, computed(() => toValue(skip))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/commissions', {
          params: { path: { studio: studio.value }, query: { skip: toValue(skip) } },
        }),
      ),
    refetchInterval: 60_000,
    placeholderData: (old) => old,
  })
}

/** One piece with everything that follows from it, read when it is taken in hand. */
export function usePieceView(id: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['piece', studio, computed(() => toValue(id))],
    queryFn: () =>
      take(api.GET('/s/{studio}/pieces/{id}', { params: { path: { studio: studio.value, id: toValue(id) } } })),
    enabled: computed(() => toValue(id) > 0),
    placeholderData: (old) => (old?.id === toValue(id) ? old : undefined),
  })
}

export function useCommission(id: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['commission', studio, computed(() => toValue(id))],
    queryFn: () =>
      take(api.GET('/s/{studio}/commissions/{id}', { params: { path: { studio: studio.value, id: toValue(id) } } })),
    placeholderData: (old) => old,
  })
}

export function useTools() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['tools', studio],
    queryFn: () => take(api.GET('/s/{studio}/tools', { params: { path: { studio: studio.value } } })),
  })
}

export function usePantry() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['pantry', studio],
    queryFn: () => take(api.GET('/s/{studio}/pantry', { params: { path: { studio: studio.value } } })),
  })
}

export function useLot(id: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['lot', studio, computed(() => toValue(id))],
    queryFn: () =>
      take(api.GET('/s/{studio}/lots/{id}', { params: { path: { studio: studio.value, id: toValue(id) } } })),
  })
}

/** Where good makers differ, and the side that this studio is on. */
export function useSchools() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['schools', studio],
    queryFn: () => take(api.GET('/s/{studio}/schools', { params: { path: { studio: studio.value } } })),
  })
}

export function useNeeds() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['needs', studio],
    queryFn: () => take(api.GET('/s/{studio}/needs', { params: { path: { studio: studio.value } } })),
  })
}

export function useColours(id: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['colours', studio, computed(() => toValue(id))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/commissions/{id}/colours', {
          params: { path: { studio: studio.value, id: toValue(id) } },
        }),
      ),
    placeholderData: (old) => old,
  })
}

export function useTogether(id: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['together', studio, computed(() => toValue(id))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/commissions/{id}/together', {
          params: { path: { studio: studio.value, id: toValue(id) } },
        }),
      ),
    placeholderData: (old) => old,
  })
}

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
export function useToolKinds() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['toolKinds', studio],
    queryFn: () => take(api.GET('/s/{studio}/tools/kinds', { params: { path: { studio: studio.value } } })),
  })
}

/** Ways of making, the studio's own first. */
export function useWays() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['ways', studio],
    queryFn: () => take(api.GET('/s/{studio}/ways', { params: { path: { studio: studio.value } } })),
  })
}

export function useWay(key: MaybeRefOrGetter<string>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['way', studio, computed(() => toValue(key))],
    queryFn: () =>
      take(api.GET('/s/{studio}/ways/{key}', { params: { path: { studio: studio.value, key: toValue(key) } } })),
    enabled: computed(() => toValue(key) !== ''),
    placeholderData: (old) => old,
  })
}

/** What a tool has made of late. */
export function useMade(id: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['made', studio, computed(() => toValue(id))],
    queryFn: () =>
      take(api.GET('/s/{studio}/tools/{id}/made', { params: { path: { studio: studio.value, id: toValue(id) } } })),
  })
}

/** How a piece stands round a tier of its order; count 0: as many as is usual. */
export function useRound(
  id: MaybeRefOrGetter<number>,
  tier: MaybeRefOrGetter<number>,
  count: MaybeRefOrGetter<number>,
) {
  const studio = useStudio()
  return useQuery({
    queryKey: [
      'round',
      studio,
      computed(() => toValue(id)),
      computed(() => toValue(tier)),
      computed(() => toValue(count)),
    ],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/pieces/{id}/round', {
          params: {
            path: { studio: studio.value, id: toValue(id) },
            query: { tier: toValue(tier), count: toValue(count) },
          },
        }),
      ),
    placeholderData: (old) => old,
  })
}

/** What a new piece of a commission can begin from. */
export interface Wish {
  look: string
  count: string
  size: string
  eaten: '' | 'mouthful' | 'nibbled' | 'shown'
}

export function useOffers(id: MaybeRefOrGetter<number>, wish: MaybeRefOrGetter<Wish>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['offers', studio, computed(() => toValue(id)), computed(() => ({ ...toValue(wish) }))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/commissions/{id}/offers', {
          params: { path: { studio: studio.value, id: toValue(id) }, query: { ...toValue(wish) } },
        }),
      ),
    placeholderData: (old) => old,
    retry: false,
  })
}

export interface LineAsked {
  commission: number
  from: string
  days: number
  by: '' | 'piece' | 'person'
}
export function useLine(asked: MaybeRefOrGetter<LineAsked>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['line', studio, computed(() => toValue(asked))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/line', {
          params: {
            path: { studio: studio.value },
            query: toValue(asked),
          },
        }),
      ),
    refetchInterval: 60_000,
    placeholderData: (old) => old,
  })
}

/** Seven days as they go on paper. */
export function useWeek(from: MaybeRefOrGetter<string>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['week', studio, computed(() => toValue(from))],
    queryFn: () =>
      take(api.GET('/s/{studio}/week', { params: { path: { studio: studio.value }, query: { from: toValue(from) } } })),
    placeholderData: (old) => old,
  })
}

/** Hands against hours, and what is held, of four weeks. */
export function useWorkload(from: MaybeRefOrGetter<string>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['workload', studio, computed(() => toValue(from))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/workload', { params: { path: { studio: studio.value }, query: { from: toValue(from) } } }),
      ),
    placeholderData: (old) => old,
  })
}

/** What one pennant of the line says. */
export function useStep(op: MaybeRefOrGetter<string>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['step', studio, computed(() => toValue(op))],
    queryFn: () =>
      take(api.GET('/s/{studio}/line/steps/{op}', { params: { path: { studio: studio.value, op: toValue(op) } } })),
    enabled: computed(() => toValue(op) !== ''),
    placeholderData: (old) => old,
  })
}

export function useJournal(commission: MaybeRefOrGetter<number>, before: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['journal', studio, computed(() => toValue(commission)), computed(() => toValue(before))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/journal', {
          params: {
            path: { studio: studio.value },
            query: { commission: toValue(commission), before: toValue(before) },
          },
        }),
      ),
    placeholderData: (old) => old,
  })
}

/** A step that hands took although it is not due: the bench shows it until something is done. */
export const inHand = ref('')

export function useBench() {
  const studio = useStudio()
  const client = useQueryClient()
  watch(inHand, () => void client.invalidateQueries({ queryKey: ['bench', studio.value] }))
  return useQuery({
    queryKey: ['bench', studio],
    queryFn: async () => {
      const b = await take(
        api.GET('/s/{studio}/bench', {
          params: { path: { studio: studio.value }, query: inHand.value ? { at: inHand.value } : {} },
        }),
      )
      noteTold(b.told)
      return b
    },
    refetchInterval: 60_000,
  })
}

/** The scale as it is pushed while it is looked at. */
export const useScale = (
  op: MaybeRefOrGetter<string>,
  on: MaybeRefOrGetter<boolean>,
  pairs: MaybeRefOrGetter<'' | 'yes' | 'no'> = '',
) => useDevice<WeightView>('scale', 'weight', op, on, () => (toValue(pairs) ? `&pairs=${toValue(pairs)}` : ''))

/** The balls of a press as far as they are weighed out. */
export function usePortions(op: MaybeRefOrGetter<string>, pairs: MaybeRefOrGetter<'' | 'yes' | 'no'>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['portions', studio, computed(() => toValue(op)), computed(() => toValue(pairs))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/bench/{op}/portions', {
          params: { path: { studio: studio.value, op: toValue(op) }, query: { pairs: toValue(pairs) } },
        }),
      ),
    enabled: computed(() => toValue(op) !== ''),
    retry: false,
  })
}

/** The thermometer, likewise. */
export const useThermometer = (op: MaybeRefOrGetter<string>, on: MaybeRefOrGetter<boolean>) =>
  useDevice<HeatView>('thermometer', 'heat', op, on)

function useDevice<V>(
  name: string,
  event: string,
  op: MaybeRefOrGetter<string>,
  on: MaybeRefOrGetter<boolean>,
  more: () => string = () => '',
) {
  const studio = useStudio()
  const data = shallowRef<V>()
  const shown = ref(0) // counts up when what is aimed at must be read anew
  let source: EventSource | undefined
  function stop() {
    source?.close()
    source = undefined
  }
  watch(
    [() => toValue(op), () => toValue(on), studio, shown, more],
    () => {
      stop()
      if (!toValue(on) || !studio.value) return
      source = new EventSource(`/api/s/${studio.value}/${name}/live?op=${encodeURIComponent(toValue(op))}${more()}`)
      source.addEventListener(event, (e) => (data.value = JSON.parse((e as MessageEvent<string>).data) as V))
    },
    { immediate: true },
  )
  onBeforeUnmount(stop)
  return { data, again: () => shown.value++ }
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
      inHand.value = ''
      void client.invalidateQueries({
        predicate: (q) => ofStudio(q) && !['bench', 'kitchen'].includes(String(q.queryKey[0])),
      })
    },
  })
}
