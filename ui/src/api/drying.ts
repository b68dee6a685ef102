import { useQuery } from '@tanstack/vue-query'
import { computed, onBeforeUnmount, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, take, type LivePlace, type NoteIn, type TendIn } from './client'
import { useAct, useStudio } from './queries'

/** Every place where things dry, and its air. */
export function useRoom() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['room', studio],
    queryFn: () => take(api.GET('/s/{studio}/room', { params: { path: { studio: studio.value } } })),
    refetchInterval: 60_000,
  })
}

/** The air of a place over so many hours back, and what is expected next. */
export function useStrip(rack: MaybeRefOrGetter<number>, hours: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['strip', studio, computed(() => toValue(rack)), computed(() => toValue(hours))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/room/strip', {
          params: { path: { studio: studio.value }, query: { rack: toValue(rack), hours: toValue(hours) } },
        }),
      ),
    refetchInterval: 60_000,
    placeholderData: (old) => old,
  })
}

/** What the room sensor says of each place, as it changes. */
export function useRoomLive() {
  const studio = useStudio()
  const places = shallowRef<LivePlace[]>([])
  let source: EventSource | undefined
  const stop = () => source?.close()
  watch(
    studio,
    (slug) => {
      stop()
      if (!slug) return
      source = new EventSource(`/api/s/${slug}/room/live`)
      source.addEventListener(
        'room',
        (e) => (places.value = (JSON.parse((e as MessageEvent<string>).data) as { places: LivePlace[] }).places),
      )
    },
    { immediate: true },
  )
  onBeforeUnmount(stop)
  return places
}

export function useShelf() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['shelf', studio],
    queryFn: () => take(api.GET('/s/{studio}/shelf', { params: { path: { studio: studio.value } } })),
    refetchInterval: 60_000,
  })
}

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

export function useNotebook(find: MaybeRefOrGetter<string>, skip: MaybeRefOrGetter<number>) {
  const studio = useStudio()
  return useQuery({
    queryKey: ['notebook', studio, computed(() => toValue(find)), computed(() => toValue(skip))],
    queryFn: () =>
      take(
        api.GET('/s/{studio}/notebook', {
          params: { path: { studio: studio.value }, query: { find: toValue(find), skip: toValue(skip) } },
        }),
      ),
    placeholderData: (old) => old,
  })
}

export function useLearnt() {
  const studio = useStudio()
  return useQuery({
    queryKey: ['learnt', studio],
    queryFn: () => take(api.GET('/s/{studio}/notebook/learnt', { params: { path: { studio: studio.value } } })),
  })
}
