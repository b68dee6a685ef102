import { api, take } from './client'
import { useAct, useBenchAct } from './queries'

/** How hands end a move of a step; '' ends the step. */
export type Did = '' | 'press' | 'pressOut' | 'open'

interface At {
  op: string
  version: number
}

/** What hands say of the step they are at. */
export function useHandsActs() {
  const hands = useBenchAct((studio, x: At & { do: Did }) =>
    take(
      api.POST('/s/{studio}/bench/{op}/hands/{version}', {
        params: { path: { studio, op: x.op, version: x.version }, query: { do: x.do } },
      }),
    ),
  )
  const takeBack = useBenchAct((studio, entry: number) =>
    take(api.POST('/s/{studio}/bench/takeBack/{entry}', { params: { path: { studio, entry } } })),
  )
  const countBy = useBenchAct((studio, x: At & { by: number }) =>
    take(api.POST('/s/{studio}/bench/{op}/count/{version}/{by}', { params: { path: { studio, ...x } } })),
  )
  const broke = useBenchAct((studio, x: At & { why: string }) =>
    take(api.POST('/s/{studio}/bench/{op}/broke/{version}/{why}', { params: { path: { studio, ...x } } })),
  )
  const more = useBenchAct((studio, x: { id: number; n: number }) =>
    take(api.POST('/s/{studio}/pieces/{id}/more/{n}', { params: { path: { studio, ...x } } })),
  )
  const stop = useBenchAct((studio, x: At) =>
    take(api.POST('/s/{studio}/bench/{op}/enough/{version}', { params: { path: { studio, ...x } } })),
  )
  const looked = useBenchAct((studio, x: At & { check: string; well?: boolean }) =>
    take(
      api.POST('/s/{studio}/bench/{op}/look/{version}', {
        params: { path: { studio, op: x.op, version: x.version } },
        body: { check: x.check, ...(x.well === undefined ? {} : { well: x.well }) },
      }),
    ),
  )
  return { hands, takeBack, countBy, broke, more, stop, looked }
}

/** A copy of a tool broke: the line is hung anew with those that are left. */
export const useCopyBroke = () =>
  useAct((studio, id: number) =>
    take(api.POST('/s/{studio}/tools/{id}/copies/{do}', { params: { path: { studio, id, do: 'broke' } } })),
  )
