import type { LineMark, LineView } from '../api/client'
import type { Scale } from './lineScale'

export const ROW = 36 // of one batch: its name stands beside it, its words above its pennants
export const FOLDED = 48 // of a whole order
export const CORD = 19 // of that, where the cord runs
const LEAST = 7 // a pennant that a finger finds
const LETTER = 6.2 // px of one, about

export interface Pennant {
  s: LineMark
  a: number
  b: number
  mid: number
  label: string
}
export interface Cord {
  s: LineMark
  a: number
  b: number
  deep: number
  bead: { x: number; y: number }
}
export interface Lane {
  key: string
  name: string
  pennants: Pennant[]
  cords: Cord[]
}
export interface Strings {
  key: string
  commissionId: number
  title: string
  handOverSays: string
  over: number
  folded: boolean
  lanes: Lane[]
}

/** How far a cord sags: deeper the more time there is before it is taut. */
function sag(s: LineMark): number {
  if (s.decides) return 1.5
  return 3 + 11 * Math.min(1, Math.log2(1 + (s.slack ?? 0) / 30) / Math.log2(1 + (3 * 1440) / 30))
}

function words(s: LineMark, folded: boolean): string {
  return folded ? s.of : ({ putOn: 'put on' }[s.kind] ?? s.kind)
}

/** What hangs on one string. Beside one another where there is room for it; folded, where they stand. */
function lane(key: string, steps: LineMark[], x: Scale['x'], begins: Map<string, number>, folded: boolean): Lane {
  let free = -1
  const pennants = steps
    .filter((s) => s.attended)
    .map((s) => {
      const a = folded ? x(s.start) : Math.max(free, x(s.start))
      const b = Math.max(a + LEAST, x(s.end))
      free = b + 1
      return { s, a, b, mid: (a + b) / 2, label: '' }
    })
  label(pennants, folded)
  const cords = steps
    .filter((s) => !s.attended)
    .map((s) => {
      const a = x(s.start)
      const ends = x(s.end)
      const b = Math.max(a + 3, ends, x(begins.get(s.next ?? '') ?? s.end))
      const deep = sag(s) * (folded ? 1.7 : 1)
      const f = (ends - a) / (b - a)
      return { s, a, b, deep, bead: { x: ends, y: CORD + 4 * f * (1 - f) * deep } }
    })
  return { key, name: steps.at(-1)?.name ?? '', pennants, cords }
}

/** Words stand where none covers another; of pennants of one name beside one another at the first. */
function label(pennants: Pennant[], folded: boolean) {
  let said = -1
  let last = ''
  for (const [i, p] of pennants.entries()) {
    const say = words(p.s, folded)
    if (folded && say === last) continue
    const half = (say.length * LETTER) / 2
    const next = pennants[i + 1]?.mid ?? Infinity
    const room = folded || p.mid + half < Math.max(next - 4, p.b)
    if (p.mid - half > said && room) {
      p.label = say
      last = say
      said = p.mid + half + 4
    }
  }
}

const rowKey = (r: LineView['rows'][number]) => `${r.commissionId} ${r.commissionId ? '' : r.title}`

/** The strings of a line, one for each lane of each order or person; of what is folded one for all of it. */
export function stringsOf(line: LineView, scale: Scale, folded: (key: string) => boolean): Strings[] {
  const begins = new Map(line.rows.flatMap((r) => r.steps.map((s): [string, number] => [s.op, s.start])))
  return line.rows.map((r) => {
    const key = rowKey(r)
    const shut = folded(key)
    const by = new Map<string, LineMark[]>()
    for (const s of r.steps) {
      const at = shut ? '' : s.row
      by.set(at, [...(by.get(at) ?? []), s])
    }
    const over = Date.parse(r.handOver)
    const last = scale.parts.at(-1)
    const seen = over > 0 && (line.rows.length === 1 || (last && over < last.b + 86400000))
    return {
      key,
      commissionId: r.commissionId,
      title: r.title,
      handOverSays: r.handOverSays,
      over: seen ? scale.x(over) : 0,
      folded: shut,
      lanes: [...by].map(([k, steps]) => lane(k, steps, scale.x, begins, shut)),
    }
  })
}

/** How many strings a line has when nothing is folded. */
export const stringCount = (line: LineView) =>
  line.rows.reduce((n, r) => n + new Set(r.steps.map((s) => s.row)).size, 0)
export const keysOf = (line: LineView) => line.rows.map(rowKey)
