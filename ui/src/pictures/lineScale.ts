import type { LineView } from '../api/client'

export const NIGHT = 18
const FREE = 92 // days with nothing on them
const LENGTH = 0.45 // px a minute where nights have their length

export interface Stretch {
  a: number
  b: number
  x: number
  w: number
  day: string
  from: string
  fold: { x: number; w: number; free: { a: number; day: string }[] }
}
export interface Scale {
  parts: Stretch[]
  width: number
  x: (t: number) => number
  t: (x: number) => number
}

/** Stretches at the bench lie open; nights between, and days with nothing on them, are folded and marked, unless they
 * are to have their length. */
export function lineScale(line: LineView, room: number, nights: boolean): Scale {
  const marks = line.rows.flatMap((r) => r.steps)
  const all = line.sessions.map((s) => ({ ...s, a: Date.parse(s.start), b: Date.parse(s.end) }))
  const parts: Stretch[] = nights ? atLength(all) : folded(all, marks, room)
  const last = parts.at(-1)
  const width = Math.max(room, Math.ceil((last ? last.x + last.w : 0) + NIGHT))
  return { parts, width, x: (t) => along(parts, width, t), t: (x) => back(parts, x) }
}

type Open = { a: number; b: number; day: string; from: string }

function folded(all: Open[], marks: { start: number; end: number; attended?: boolean }[], room: number): Stretch[] {
  const used = all.filter((s) => marks.some((m) => m.attended && m.start < s.b && m.end > s.a))
  const open = used.length ? used : all
  const folds = open.map((s, i) => {
    const before = open[i - 1]?.b ?? -Infinity
    return all.filter((f) => f.b <= s.a && f.a >= before && !open.includes(f))
  })
  const widths = folds.map((f): number => (f.length ? FREE : NIGHT))
  const fixed = widths.reduce((sum, w) => sum + w, NIGHT)
  const minutes = open.reduce((m, s) => m + (s.b - s.a) / 60000, 0)
  const perMinute = Math.max(0.3, (room - fixed) / Math.max(1, minutes))
  let at = 0
  return open.map((s, i) => {
    const fold = { x: at, w: widths[i] ?? NIGHT, free: folds[i] ?? [] }
    const x = at + fold.w
    const w = ((s.b - s.a) / 60000) * perMinute
    at = x + w
    return { ...s, x, w, fold }
  })
}

function atLength(all: Open[]): Stretch[] {
  const first = all[0]?.a ?? 0
  let before = 0
  return all.map((s) => {
    const x = NIGHT + ((s.a - first) / 60000) * LENGTH
    const w = ((s.b - s.a) / 60000) * LENGTH
    const fold = { x: before, w: x - before, free: [] }
    before = x + w
    return { ...s, x, w, fold }
  })
}

function along(parts: Stretch[], width: number, t: number): number {
  let before = 0
  let edge = 0
  for (const s of parts) {
    if (t < s.a) {
      // inside a fold: the share of it that has passed
      const f = before ? (t - before) / (s.a - before) : 1 - Math.min(1, (s.a - t) / 86400000)
      return edge + f * (s.x - edge)
    }
    if (t <= s.b) return s.x + ((t - s.a) / (s.b - s.a)) * s.w
    before = s.b
    edge = s.x + s.w
  }
  return Math.min(width - 2, edge + Math.min(NIGHT, (t - before) / 3600000))
}

/** The instant at a place: within the hours of the bench, since hands are nowhere else. */
function back(parts: Stretch[], x: number): number {
  for (const s of parts) {
    if (x < s.x) {
      const free = s.fold.free
      if (!free.length) return x - s.fold.x < s.fold.w / 2 ? (before(parts, s)?.b ?? s.a) : s.a
      const at = Math.floor(((x - s.fold.x) / s.fold.w) * free.length)
      return free[Math.max(0, Math.min(free.length - 1, at))]?.a ?? s.a
    }
    if (x <= s.x + s.w) return s.a + ((x - s.x) / s.w) * (s.b - s.a)
  }
  return parts.at(-1)?.b ?? 0
}

const before = (parts: Stretch[], s: Stretch) => parts[parts.indexOf(s) - 1]
