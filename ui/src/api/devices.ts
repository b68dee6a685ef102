import { computed, onBeforeUnmount, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, take, type HeatView, type LivePlace, type WeightView } from './client'
import { useStudio, useView } from './queries'

/** The scale as it is pushed while it is looked at. */
export const useScale = (
  op: MaybeRefOrGetter<string>,
  on: MaybeRefOrGetter<boolean>,
  pairs: MaybeRefOrGetter<'' | 'yes' | 'no'> = '',
) => useDevice<WeightView>('scale', 'weight', op, on, () => (toValue(pairs) ? `&pairs=${toValue(pairs)}` : ''))

/** The balls of a press as far as they are weighed out. */
export const usePortions = (op: MaybeRefOrGetter<string>, pairs: MaybeRefOrGetter<'' | 'yes' | 'no'>) =>
  useView(
    'portions',
    [op, pairs],
    (studio) =>
      take(
        api.GET('/s/{studio}/bench/{op}/portions', {
          params: { path: { studio, op: toValue(op) }, query: { pairs: toValue(pairs) } },
        }),
      ),
    { retry: false, enabled: () => toValue(op) !== '' },
  )

/** The thermometer, likewise. */
export const useThermometer = (op: MaybeRefOrGetter<string>, on: MaybeRefOrGetter<boolean>) =>
  useDevice<HeatView>('thermometer', 'heat', op, on)

/** A device aimed at a step. */
function useDevice<V>(
  name: string,
  event: string,
  op: MaybeRefOrGetter<string>,
  on: MaybeRefOrGetter<boolean>,
  more: () => string = () => '',
) {
  return useLive<V>(event, () => (toValue(on) ? `${name}/live?op=${encodeURIComponent(toValue(op))}${more()}` : ''))
}

/** What a device of the studio sends, as it comes, from an address under the studio's ('': none). */
function useLive<V>(event: string, at: () => string) {
  const studio = useStudio()
  const data = shallowRef<V>()
  const anew = ref(0) // counts up when what is aimed at must be read anew
  let source: EventSource | undefined
  function stop() {
    source?.close()
    source = undefined
  }
  watch(
    [at, studio, anew],
    () => {
      stop()
      if (!at() || !studio.value) return
      source = new EventSource(`/api/s/${studio.value}/${at()}`)
      source.addEventListener(event, (e) => (data.value = JSON.parse((e as MessageEvent<string>).data) as V))
    },
    { immediate: true },
  )
  onBeforeUnmount(stop)
  return { data, again: () => anew.value++ }
}

/** What the room sensor says of each place, as it changes. */
export function useRoomLive() {
  const { data } = useLive<{ places: LivePlace[] }>('room', () => 'room/live')
  return computed(() => data.value?.places ?? [])
}
