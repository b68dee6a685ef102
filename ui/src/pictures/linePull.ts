import type { Lane, Pennant } from './bunting'
import type { Scale } from './lineScale'

const STEP = 300_000 // a pennant is put to five minutes
const FIRM = 6 // px that a finger trembles

export interface Puller {
  look: (op: string) => void
  shift: (op: string, at: number) => void
  drop: () => void
  leave: () => void
  /** Where a pennant that is on its way would stand by now. */
  way: (op: string) => number | null
  looked: () => string
  lanes: () => Lane[]
  scale: () => Scale
  still: () => boolean
  go: (op: string | undefined) => void
}

/** A pennant is drawn along its string by hand, or with the keys. */
export function usePull(p: Puller) {
  let drag: { op: string; from: number; x: number; moved: boolean } | null = null
  function press(e: PointerEvent, at: Pennant) {
    const was = p.looked()
    p.look(at.s.op)
    // a finger that only scrolls takes nothing along: what it is to take is touched once before
    if (p.still() || at.s.done || (e.pointerType === 'touch' && was !== at.s.op)) return
    drag = { op: at.s.op, from: at.a, x: e.clientX, moved: false }
    ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
  }
  function pull(e: PointerEvent) {
    if (!drag || (!drag.moved && Math.abs(e.clientX - drag.x) < FIRM)) return
    drag.moved = true
    const t = p.scale().t(drag.from + e.clientX - drag.x)
    p.shift(drag.op, Math.round(t / STEP) * STEP)
  }
  function release() {
    if (drag?.moved) p.drop()
    drag = null
  }
  function keyed(e: KeyboardEvent, at: Pennant) {
    const lanes = p.lanes().filter((l) => l.pennants.length)
    const here = lanes.findIndex((l) => l.pennants.includes(at))
    const lane = lanes[here]
    if (!lane) return
    const beside = (by: number) => lane.pennants[lane.pennants.indexOf(at) + by]?.s.op
    const nearest = (by: number) =>
      lanes[here + by]?.pennants.reduce((a, b) => (Math.abs(b.mid - at.mid) < Math.abs(a.mid - at.mid) ? b : a)).s.op
    const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key]
    if (by && e.shiftKey && !p.still()) p.shift(at.s.op, (p.way(at.s.op) ?? at.s.start) + by * 3 * STEP)
    else if (by) p.go(beside(by))
    else if (e.key === 'ArrowUp') p.go(nearest(-1))
    else if (e.key === 'ArrowDown') p.go(nearest(1))
    else if (e.key === 'Enter' || e.key === ' ')
      if (p.way(at.s.op) !== null) p.drop()
      else p.look(at.s.op)
    else if (e.key === 'Escape') p.leave()
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  return { press, pull, release, keyed }
}
