import { api, take } from '../api/client'
import { useAct } from '../api/queries'

/** Takes back what was done last, as the journal has it. */
export function useTakeBack() {
  return useAct(async (s) => {
    const entry = (await take(api.GET('/s/{studio}/journal', { params: { path: { studio: s } } }))).undoId
    return (
      entry &&
      take(api.POST('/s/{studio}/journal/undo', { params: { path: { studio: s }, query: { entry, last: true } } }))
    )
  })
}
