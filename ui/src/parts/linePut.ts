import { ref, shallowRef } from 'vue'
import { api, take, type PinView } from '../api/client'
import { useAct, useStudio } from '../api/queries'
import type { Ghost } from '../pictures/BuntingLine.vue'
import { useTakeBack } from './takeBack'
import { offerUndo } from './undo'

/** A pennant on its way to another time: what comes of it is asked for while it moves, one question at a time. */
export function usePut() {
  const studio = useStudio()
  const ghost = shallowRef<Ghost | null>(null)
  const look = shallowRef<PinView | null>(null)
  const asking = ref(false)
  const wrong = ref('')
  let wanted: { op: string; at: number } | null = null

  async function ask() {
    if (asking.value) return
    asking.value = true
    while (wanted) {
      const { op, at } = wanted
      wanted = null
      try {
        const v = await take(
          api.GET('/s/{studio}/line/steps/{op}/look', {
            params: { path: { studio: studio.value, op }, query: { at } },
          }),
        )
        if (ghost.value?.op === op) {
          look.value = v
          if (!wanted) ghost.value = { ...ghost.value, places: v.may ? v.places : [] }
        }
      } catch (err) {
        wrong.value = err instanceof Error ? err.message : String(err)
      }
    }
    asking.value = false
  }
  function shift(op: string, at: number) {
    wrong.value = ''
    if (ghost.value?.op === op && ghost.value.at === at) return
    ghost.value = { op, at, places: ghost.value?.op === op ? ghost.value.places : [] }
    wanted = { op, at }
    void ask()
  }
  function leave() {
    ghost.value = look.value = wanted = null
    wrong.value = ''
  }
  const pin = useAct((s, x: { op: string; at: number }) =>
    take(
      api.POST('/s/{studio}/line/steps/{op}/pin', { params: { path: { studio: s, op: x.op }, query: { at: x.at } } }),
    ),
  )
  const back = useTakeBack()
  async function put(op: string, at: number, says: string) {
    try {
      await pin.mutateAsync({ op, at })
      leave()
      offerUndo(says, () => back.mutate(undefined))
    } catch (err) {
      wrong.value = err instanceof Error ? err.message : String(err)
    }
  }
  /** It is let go of: it stays there, unless it is known by now that it cannot. */
  async function drop() {
    const g = ghost.value
    const v = look.value?.at === g?.at ? look.value : null
    if (!g || (v && !v.may)) return
    await put(g.op, g.at, v ? `${v.title}: ${v.says}` : 'Put elsewhere.')
  }
  const free = (op: string, title: string) => put(op, 0, `${title} is let go: it stands where it fits.`)
  return { ghost, look, asking, wrong, shift, leave, drop, free }
}
