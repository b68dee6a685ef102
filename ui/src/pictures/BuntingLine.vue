<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import type { LineMark, LineView } from '../api/client'

const props = defineProps<{ line: LineView }>()
const ROW = 36 // of one batch: its name stands beside it, its words above its pennants
const CORD = 19 // of that, where the cord runs
const NIGHT = 18
const FREE = 92 // days with nothing on them
const LEAST = 7 // a pennant that a finger finds

// as wide as there is room, so that now and the hand-over are in sight together
const strip = ref<HTMLElement>()
const room = ref(900)
const watcher = new ResizeObserver(([e]) => e && (room.value = Math.max(300, Math.floor(e.contentRect.width))))
onMounted(() => strip.value && watcher.observe(strip.value))
onBeforeUnmount(() => watcher.disconnect())

const marks = computed(() => props.line.rows.flatMap((r) => r.steps))

/** Stretches at the bench lie open; nights between, and days with nothing on them, are folded and marked. */
const scale = computed(() => {
  const all = props.line.sessions.map((s) => ({ ...s, a: Date.parse(s.start), b: Date.parse(s.end) }))
  const used = all.filter((s) => marks.value.some((m) => m.attended && m.start < s.b && m.end > s.a))
  const open = used.length ? used : all
  const folds = open.map((s, i) => {
    const before = open[i - 1]?.b ?? -Infinity
    return all.filter((f) => f.b <= s.a && f.a >= before && !open.includes(f))
  })
  const folded = folds.map((f): number => (f.length ? FREE : NIGHT))
  const fixed = folded.reduce((sum, w) => sum + w, NIGHT)
  const minutes = open.reduce((m, s) => m + (s.b - s.a) / 60000, 0)
  const perMinute = Math.max(0.3, (room.value - fixed) / Math.max(1, minutes))
  let at = 0
  const parts = open.map((s, i) => {
    const fold = { x: at, w: folded[i] ?? NIGHT, free: folds[i] ?? [] }
    const x = at + fold.w
    const w = ((s.b - s.a) / 60000) * perMinute
    at = x + w
    return { ...s, x, w, fold }
  })
  return { parts, width: Math.max(room.value, Math.ceil(at + NIGHT)) }
})
const days = (free: { day: string }[]) =>
  free.length === 1 ? [free[0]?.day ?? '', 'free'] : [`${free[0]?.day} to`, `${free.at(-1)?.day}, free`]

function x(t: number): number {
  const { parts, width } = scale.value
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

/** One row a batch: no pennant lies under another, and each name has its place. */
function batchRow(steps: LineMark[]) {
  let free = -1
  let said = -1
  const pennants = steps
    .filter((s) => s.attended)
    .map((s) => {
      const a = Math.max(free, x(s.start))
      const b = Math.max(a + LEAST, x(s.end))
      free = b + 1
      return { s, a, b, mid: (a + b) / 2, label: '' }
    })
  for (const [i, p] of pennants.entries()) {
    const words = short(p.s)
    const half = words.length * 3.1
    const next = pennants[i + 1]?.mid ?? Infinity
    if (p.mid - half > said && p.mid + half < Math.max(next - 4, p.b)) {
      p.label = words
      said = p.mid + half + 4
    }
  }
  const cords = steps
    .filter((s) => !s.attended)
    .map((s) => {
      const a = x(s.start)
      const b = Math.max(a + 3, x(s.end))
      return { s, a, b, deep: s.decides ? 3 : Math.min(15, 7 + (b - a) * 0.04) }
    })
  return { name: steps.at(-1)?.name ?? '', pennants, cords }
}
const orders = computed(() =>
  props.line.rows.map((r) => {
    const batches = new Map<string, LineMark[]>()
    for (const s of r.steps) batches.set(s.row, [...(batches.get(s.row) ?? []), s])
    const over = Date.parse(r.handOver)
    const last = scale.value.parts.at(-1)
    return {
      ...r,
      lanes: [...batches.values()].map(batchRow),
      over: over > 0 && (props.line.rows.length === 1 || (last && over < last.b + 86400000)) ? x(over) : 0,
    }
  }),
)
function short(s: LineMark): string {
  return { putOn: 'put on' }[s.kind] ?? s.kind
}
const nowX = computed(() => x(Date.parse(props.line.now)))
const one = computed(() => props.line.rows.length === 1)
</script>

<template>
  <figure class="bunting" :class="{ one }">
    <p class="marks small">
      <span class="nowtext">now {{ line.nowSays }}</span>
      <span v-if="one && orders[0]!.handOverSays" class="overtext">hand over {{ orders[0]!.handOverSays }}</span>
    </p>
    <div
      class="lines"
      :class="{ scroll: scale.width > room }"
      tabindex="0"
      role="group"
      aria-label="The line, drawn; the list below says the same"
    >
      <div ref="strip" class="strip head" aria-hidden="true">
        <svg :viewBox="`0 0 ${scale.width} 34`" :width="scale.width" height="34">
          <g v-for="s in scale.parts" :key="s.start">
            <template v-if="s.fold.free.length">
              <text v-for="(d, i) in days(s.fold.free)" :key="d" :x="s.fold.x + 6" :y="13 + i * 14" class="free">
                {{ d }}
              </text>
            </template>
            <text :x="s.x + 3" y="15" class="day">{{ s.w < 54 ? s.day.slice(0, 3) : s.day }}</text>
            <text v-if="s.w > 104" :x="s.x + 58" y="15" class="from">{{ s.from }}</text>
            <text v-else-if="s.w > 44" :x="s.x + 3" y="30" class="from">{{ s.from }}</text>
          </g>
        </svg>
      </div>
      <section v-for="r in orders" :key="r.commissionId" aria-hidden="true">
        <p v-if="!one" class="title">
          <span>{{ r.title }}</span> <span class="overtext small">hand over {{ r.handOverSays }}</span>
        </p>
        <div class="rows">
          <div v-for="lane in r.lanes" :key="lane.name + lane.pennants[0]?.s.op" class="lane">
            <span class="name small">{{ lane.name }}</span>
            <svg :viewBox="`0 0 ${scale.width} ${ROW}`" :width="scale.width" :height="ROW" class="strip">
              <rect x="0" y="0" :width="scale.width" :height="ROW" class="night" />
              <rect v-for="s in scale.parts" :key="s.start" :x="s.x" y="0" :width="s.w" :height="ROW" class="session" />
              <path :d="`M0 ${CORD}H${scale.width}`" class="string" />
              <path
                v-for="c in lane.cords"
                :key="c.s.op"
                :d="`M${c.a} ${CORD}Q${(c.a + c.b) / 2} ${CORD + c.deep * 2} ${c.b} ${CORD}`"
                class="cord"
                :class="{ taut: c.s.decides }"
              />
              <g v-for="p in lane.pennants" :key="p.s.op">
                <path
                  :d="`M${p.a} ${CORD}H${p.b}L${p.mid} ${CORD + 15}Z`"
                  :fill="p.s.kind === 'putOn' || p.s.kind === 'pack' ? 'var(--fern)' : p.s.swatch"
                  class="pennant"
                  :class="{ done: p.s.done, decides: p.s.decides }"
                />
                <text v-if="p.label" :x="p.mid" :y="CORD - 5" text-anchor="middle" class="label">{{ p.label }}</text>
              </g>
              <path v-if="r.over" :d="`M${r.over} 0V${ROW}`" class="over" />
              <path :d="`M${nowX} 0V${ROW}`" class="now" />
            </svg>
          </div>
        </div>
      </section>
    </div>
    <figcaption class="vh">{{ line.says }}</figcaption>
  </figure>
</template>

<style scoped>
.bunting {
  margin: 0;
}
.marks {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  justify-content: space-between;
  margin: 0 0 4px 176px;
}
.scroll {
  overflow-x: auto;
  border-radius: 10px;
}
.head {
  position: sticky;
  top: 0;
  z-index: 2;
  margin-left: 176px;
  background: var(--paper);
}
.strip {
  min-width: 0;
}
svg {
  display: block;
}
.title {
  position: sticky;
  left: 0;
  width: fit-content;
  margin: 10px 0 2px;
  font-family: 'Fraunces Variable', Fraunces, serif;
  font-size: 16px;
}
.title .small {
  font-family: 'Figtree Variable', sans-serif;
  margin-left: 8px;
}
.lane {
  display: flex;
  align-items: center;
}
.name {
  position: sticky;
  left: 0;
  z-index: 1;
  flex: 0 0 176px;
  box-sizing: border-box;
  padding-right: 10px;
  line-height: 1.15;
  background: var(--paper);
}
text {
  font-family: 'Figtree Variable', sans-serif;
  font-size: 12px;
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
.free {
  fill: var(--quiet);
}
.night {
  fill: var(--linen);
  opacity: 0.6;
}
.session {
  fill: var(--flour);
}
.string {
  stroke: var(--quiet);
  stroke-width: 1;
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
  stroke: color-mix(in srgb, var(--ink) 40%, transparent);
}
.pennant.decides {
  stroke: var(--ink);
  stroke-width: 1.6;
}
.pennant.done {
  opacity: 0.45;
}
.over {
  stroke: var(--fern);
  stroke-width: 2;
}
.overtext {
  font-weight: 650;
  color: var(--fern);
}
.now {
  stroke: var(--rosehip);
  stroke-width: 1.5;
}
.nowtext {
  color: var(--rosehip);
}
@media (max-width: 760px) {
  .marks,
  .head {
    margin-left: 0;
  }
  .lane {
    display: block;
  }
  .name {
    display: block;
    width: fit-content;
    padding: 4px 6px 0 0;
  }
}
</style>
