<script setup lang="ts">
import { computed, ref } from 'vue'
import type { LineMark, LineView } from '../api/client'

const props = defineProps<{ line: LineView }>()
const ROW = 150
const FOLD = 26
const focus = ref('')

/** Sessions lie open, the hours between are folded narrow. */
const scale = computed(() => {
  const open = props.line.sessions.map((s) => ({ ...s, a: Date.parse(s.start), b: Date.parse(s.end) }))
  const minutes = open.reduce((m, s) => m + (s.b - s.a) / 60000, 0)
  const perMinute = Math.max(0.55, (1100 - FOLD * (open.length + 1)) / Math.max(1, minutes))
  let at = FOLD
  const parts = open.map((s) => {
    const x = at
    const w = ((s.b - s.a) / 60000) * perMinute
    at += w + FOLD
    return { ...s, x, w }
  })
  return { parts, width: Math.max(640, at) }
})

function x(t: number): number {
  const { parts } = scale.value
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
  return Math.min(scale.value.width - 2, edge + Math.min(FOLD, (t - before) / 3600000))
}

const rows = computed(() =>
  props.line.rows.map((r, i) => {
    const y = 92 + i * ROW
    const hands = r.steps.filter((s) => s.attended)
    const ends = [-1e9, -1e9, -1e9]
    const pennants = hands.map((s) => {
      const a = x(s.start)
      const b = Math.max(a + 5, x(s.end))
      const label = short(s)
      const w = label.length * 6.6
      const mid = Math.max(w / 2 + 2, (a + b) / 2)
      let level = ends.findIndex((e) => mid - w / 2 > e + 6)
      if (s.kind === 'knead' && b - a < 40) level = -1
      if (level >= 0) ends[level] = mid + w / 2
      return { s, a, b, mid, label, level }
    })
    const cords = r.steps
      .filter((s) => !s.attended)
      .map((s) => {
        const a = x(s.start)
        const b = Math.max(a + 3, x(s.end))
        return { s, a, b, deep: s.decides ? 4 : Math.min(52, 14 + (b - a) * 0.16) }
      })
    return { ...r, y, pennants, cords, over: Date.parse(r.handOver) > 0 ? x(Date.parse(r.handOver)) : 0 }
  }),
)
const height = computed(() => 92 + Math.max(1, rows.value.length) * ROW - 36)
function short(s: LineMark): string {
  const verb = { knead: 'knead', press: '', putOn: 'put on', pack: 'pack' }[s.kind] ?? s.kind
  return [verb, s.piece ? s.piece.toLowerCase() : ''].filter(Boolean).join(' ')
}
const nowX = computed(() => x(Date.parse(props.line.now)))
</script>

<template>
  <figure class="bunting">
    <div class="scroll" tabindex="0" role="group" aria-label="The line, drawn; the list below says the same">
      <svg :viewBox="`0 0 ${scale.width} ${height}`" :width="scale.width" :height="height" aria-hidden="true">
        <rect x="0" y="34" :width="scale.width" :height="height - 40" class="night" />
        <g v-for="s in scale.parts" :key="s.start">
          <rect :x="s.x" y="34" :width="s.w" :height="height - 40" class="session" />
          <text :x="s.x + 2" y="20" class="day">{{ s.day }}</text>
          <text v-if="s.w > 96" :x="s.x + 54" y="20" class="from">{{ s.from }}</text>
        </g>
        <g v-for="r in rows" :key="r.commissionId">
          <text :x="FOLD + 4" :y="r.y - 36" class="title">{{ r.title }}</text>
          <path :d="`M4 ${r.y}H${scale.width - 4}`" class="string" />
          <path
            v-for="c in r.cords"
            :key="c.s.op"
            :d="`M${c.a} ${r.y + 1}Q${(c.a + c.b) / 2} ${r.y + c.deep * 1.6} ${c.b} ${r.y + 1}`"
            class="cord"
            :class="{ taut: c.s.decides, faint: focus && focus !== c.s.piece }"
          />
          <g
            v-for="p in r.pennants"
            :key="p.s.op"
            :class="{ faint: focus && focus !== p.s.piece }"
            @pointerenter="focus = p.s.piece ?? ''"
            @pointerleave="focus = ''"
          >
            <path
              :d="`M${p.a} ${r.y}H${p.b}L${(p.a + p.b) / 2} ${r.y + 26}Z`"
              :fill="p.s.kind === 'putOn' || p.s.kind === 'pack' ? 'var(--fern)' : p.s.swatch"
              class="pennant"
              :class="{ done: p.s.done, decides: p.s.decides }"
            />
            <text
              v-if="p.level >= 0 && p.label"
              :x="p.mid"
              :y="r.y - 7 - p.level * 14"
              text-anchor="middle"
              class="label"
            >
              {{ p.label }}
            </text>
          </g>
          <g v-if="r.handOverSays">
            <path :d="`M${r.over} ${r.y - 34}V${r.y + 32}`" class="over" />
            <text :x="r.over - 6" :y="r.y + 46" text-anchor="end" class="overtext">hand over {{ r.handOverSays }}</text>
          </g>
        </g>
        <path :d="`M${nowX} 28V${height - 4}`" class="now" />
        <text :x="nowX + 5" :y="height - 10" class="nowtext">now</text>
      </svg>
    </div>
    <figcaption class="vh">{{ line.says }}</figcaption>
  </figure>
</template>

<style scoped>
.bunting {
  margin: 0;
}
.scroll {
  overflow-x: auto;
  border-radius: 10px;
}
text {
  font-family: 'Figtree Variable', sans-serif;
  font-size: 12.5px;
  fill: var(--ink);
}
.day {
  font-size: 15px;
  font-weight: 650;
}
.from {
  font-size: 13px;
  fill: var(--quiet);
}
.title {
  font-family: 'Fraunces Variable', Fraunces, serif;
  font-size: 16px;
}
.night {
  fill: var(--linen);
  opacity: 0.6;
}
.session {
  fill: var(--flour);
}
.string {
  stroke: var(--ink);
  stroke-width: 1.8;
}
.cord {
  fill: none;
  stroke: var(--honey);
  stroke-width: 1.6;
}
.cord.taut {
  stroke: var(--ink);
  stroke-width: 3.2;
}
.pennant {
  stroke: rgb(0 0 0 / 0.35);
}
.pennant.decides {
  stroke: var(--ink);
  stroke-width: 1.6;
}
.pennant.done {
  opacity: 0.45;
}
.faint {
  opacity: 0.25;
}
.over {
  stroke: var(--fern);
  stroke-width: 2;
}
.overtext {
  font-weight: 650;
  fill: var(--fern);
}
.now {
  stroke: var(--rosehip);
  stroke-width: 1.5;
}
.nowtext {
  fill: var(--rosehip);
}
</style>
