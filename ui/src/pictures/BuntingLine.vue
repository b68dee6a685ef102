<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { LineView } from '../api/client'
import { CORD, FOLDED, keysOf, ROW, stringCount, stringsOf, type Pennant } from './bunting'
import LineDays from './LineDays.vue'
import { lineScale } from './lineScale'
import { usePull } from './linePull'

/** What is being put elsewhere, and where everything would stand then. */
export interface Ghost {
  op: string
  at: number
  places: { op: string; start: string; end: string }[]
}
const props = defineProps<{ line: LineView; looked: string; nights: boolean; ghost: Ghost | null; still?: boolean }>()
const emit = defineEmits<{ look: [op: string, held: boolean]; shift: [op: string, at: number]; drop: []; leave: [] }>()
const FEW = 14 // strings that are in sight together

// as wide as there is room, so that now and the hand-over are in sight together
const strip = ref<HTMLElement>()
const room = ref(900)
const watcher = new ResizeObserver(([e]) => e && (room.value = Math.max(300, Math.floor(e.contentRect.width))))
onMounted(() => strip.value && watcher.observe(strip.value))
onBeforeUnmount(() => watcher.disconnect())

const one = computed(() => props.line.rows.length === 1)
const many = computed(() => stringCount(props.line) > FEW)
const turned = ref(new Set<string>()) // folded or opened by hand
const isFolded = (key: string) => !one.value && many.value !== turned.value.has(key)
function turn(key: string) {
  const s = new Set(turned.value)
  if (!s.delete(key)) s.add(key)
  turned.value = s
}
const allFolded = computed(() => keysOf(props.line).every(isFolded))
const foldAll = () => (turned.value = new Set(allFolded.value === many.value ? keysOf(props.line) : []))
watch(
  () => props.line.by,
  () => (turned.value = new Set()),
)

const scale = computed(() => lineScale(props.line, room.value, props.nights))
const orders = computed(() => stringsOf(props.line, scale.value, isFolded))
const nowX = computed(() => scale.value.x(Date.parse(props.line.now)))
const high = (r: { folded: boolean }) => (r.folded ? FOLDED : ROW)
const ghosts = computed(() => new Map(props.ghost?.places.map((p) => [p.op, p]) ?? []))
function ghostOf(p: Pennant) {
  const own = props.ghost?.op === p.s.op
  const start = own ? props.ghost?.at : Date.parse(ghosts.value.get(p.s.op)?.start ?? '')
  if (!start) return null
  const a = scale.value.x(start)
  return { a, b: Math.max(a + 7, a + p.b - p.a), own }
}

// one pennant can be reached by Tab, the others from it by arrows
const first = computed(() => orders.value.flatMap((o) => o.lanes.flatMap((l) => l.pennants))[0]?.s.op)
const stop = computed(() =>
  orders.value.some((o) => o.lanes.some((l) => l.pennants.some((p) => p.s.op === props.looked)))
    ? props.looked
    : first.value,
)
const frame = ref<HTMLElement>()
function go(op: string | undefined) {
  if (!op) return
  emit('look', op, true)
  frame.value?.querySelector<SVGElement>(`[data-op="${CSS.escape(op)}"]`)?.focus()
}
const { press, pull, release, keyed } = usePull({
  look: (op) => emit('look', op, true),
  shift: (op, at) => emit('shift', op, at),
  drop: () => emit('drop'),
  leave: () => emit('leave'),
  way: (op) => (props.ghost?.op === op ? props.ghost.at : null),
  looked: () => props.looked,
  lanes: () => orders.value.flatMap((o) => o.lanes),
  scale: () => scale.value,
  still: () => !!props.still,
  go,
})
</script>

<template>
  <figure ref="frame" class="bunting" :class="{ one }">
    <p class="marks small">
      <span class="nowtext">now {{ line.nowSays }}</span>
      <span class="row">
        <button v-if="!one" type="button" class="turn" @click="foldAll">
          {{ allFolded ? 'Open every order' : 'Fold every order' }}
        </button>
        <span v-if="one && orders[0]!.handOverSays" class="overtext">hand over {{ orders[0]!.handOverSays }}</span>
      </span>
    </p>
    <div class="lines" :class="{ scroll: scale.width > room }" role="group" aria-label="The line, drawn">
      <div ref="strip" class="strip head" aria-hidden="true">
        <LineDays :scale="scale" />
      </div>
      <section v-for="r in orders" :key="r.key">
        <p v-if="!one && !r.folded" class="title">
          <button type="button" class="turn" aria-expanded="true" @click="turn(r.key)">
            <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true"><path d="M1 3L6 9L11 3" /></svg>
            {{ r.title }}
          </button>
          <span v-if="r.handOverSays" class="overtext small">hand over {{ r.handOverSays }}</span>
        </p>
        <div v-for="lane in r.lanes" :key="lane.key" class="lane">
          <button
            v-if="r.folded"
            type="button"
            class="turn name"
            aria-expanded="false"
            :title="r.handOverSays && `hand over ${r.handOverSays}`"
            @click="turn(r.key)"
          >
            <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true"><path d="M3 1L9 6L3 11" /></svg>
            {{ r.title }}
          </button>
          <span v-else class="name small">{{ lane.name }}</span>
          <svg :viewBox="`0 0 ${scale.width} ${high(r)}`" :width="scale.width" :height="high(r)" class="strip">
            <rect x="0" y="0" :width="scale.width" :height="high(r)" class="night" />
            <rect v-for="s in scale.parts" :key="s.a" :x="s.x" y="0" :width="s.w" :height="high(r)" class="session" />
            <path :d="`M0 ${CORD}H${scale.width}`" class="string" />
            <g v-for="c in lane.cords" :key="c.s.op" @pointerenter="emit('look', c.s.op, false)">
              <path :d="`M${c.a} ${CORD}Q${(c.a + c.b) / 2} ${CORD + c.deep * 2} ${c.b} ${CORD}`" class="near" />
              <path
                :d="`M${c.a} ${CORD}Q${(c.a + c.b) / 2} ${CORD + c.deep * 2} ${c.b} ${CORD}`"
                class="cord"
                :class="{ taut: c.s.decides, looked: looked === c.s.op }"
              />
              <circle v-if="c.b - c.bead.x > 5" :cx="c.bead.x" :cy="c.bead.y" r="2.4" class="bead" />
            </g>
            <template v-for="p in lane.pennants" :key="p.s.op">
              <g
                class="hang"
                :class="{ looked: looked === p.s.op, done: p.s.done }"
                role="button"
                :tabindex="stop === p.s.op ? 0 : -1"
                :data-op="p.s.op"
                :aria-label="`${p.s.title || `${p.s.kind}, ${p.s.of}`}${p.s.pinned ? ', pinned' : ''}`"
                :aria-pressed="looked === p.s.op"
                @pointerenter="emit('look', p.s.op, false)"
                @focus="emit('look', p.s.op, true)"
                @keydown="keyed($event, p)"
                @pointerdown="press($event, p)"
                @pointermove="pull"
                @pointerup="release"
                @pointercancel="release"
              >
                <rect
                  :x="(p.a + p.b) / 2 - Math.max(p.b - p.a, 16) / 2"
                  y="2"
                  :width="Math.max(p.b - p.a, 16)"
                  :height="ROW - 3"
                  class="near"
                />
                <path
                  :d="`M${p.a} ${CORD}H${p.b}L${p.mid} ${CORD + 15}Z`"
                  :fill="p.s.kind === 'putOn' || p.s.kind === 'pack' ? 'var(--fern)' : p.s.swatch"
                  class="pennant"
                  :class="{ decides: p.s.decides }"
                />
                <path v-if="p.s.pinned" :d="`M${p.mid} ${CORD - 7}v9`" class="pin" />
                <circle v-if="p.s.pinned" :cx="p.mid" :cy="CORD - 7" r="3.2" class="pin" />
              </g>
              <text
                v-if="p.label"
                :x="p.mid"
                :y="CORD - 5"
                text-anchor="middle"
                :class="{ bold: looked === p.s.op }"
                aria-hidden="true"
              >
                {{ p.label }}
              </text>
              <path
                v-if="ghostOf(p)"
                :d="`M${ghostOf(p)!.a} ${CORD}H${ghostOf(p)!.b}L${(ghostOf(p)!.a + ghostOf(p)!.b) / 2} ${CORD + 15}Z`"
                class="ghost"
                :class="{ own: ghostOf(p)!.own }"
              />
            </template>
            <path v-if="r.over" :d="`M${r.over} 0V${high(r)}`" class="over" />
            <path :d="`M${nowX} 0V${high(r)}`" class="now" />
          </svg>
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
  align-items: center;
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
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 10px;
  width: fit-content;
  margin: 4px 0 0;
}
.turn {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 44px;
  padding: 4px 8px 4px 0;
  border: 0;
  background: none;
  color: var(--fern);
  font: inherit;
  cursor: pointer;
}
.title .turn,
.turn.name {
  font-family: 'Fraunces Variable', Fraunces, serif;
  font-size: 16px;
  text-align: left;
  color: var(--ink);
}
.turn.name {
  display: flex;
  align-items: center;
  min-height: 48px;
}
.turn svg {
  flex: none;
}
.turn svg path {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 2;
}
.lane {
  display: flex;
  align-items: center;
}
.lane > svg {
  flex: none;
}
.name {
  position: sticky;
  left: 0;
  z-index: 1;
  flex: 0 0 176px;
  align-self: stretch;
  box-sizing: border-box;
  padding: 2px 10px 0 0;
  line-height: 1.15;
  background: var(--paper);
}
text {
  font-family: 'Figtree Variable', sans-serif;
  font-size: 12px;
  fill: var(--ink);
  pointer-events: none;
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
.near {
  fill: transparent;
  stroke: none;
}
path.near {
  fill: none;
  stroke: transparent;
  stroke-width: 12;
}
.cord {
  fill: none;
  stroke: var(--honey);
  stroke-width: 1.6;
  pointer-events: none;
}
.cord.looked {
  stroke-width: 3;
}
.cord.taut {
  stroke: var(--ink);
  stroke-width: 3.2;
}
.bead {
  fill: var(--honey);
  pointer-events: none;
}
.hang {
  cursor: grab;
  outline: none;
}
.hang.done {
  cursor: pointer;
}
.hang.looked {
  touch-action: none;
}
.pennant {
  stroke: color-mix(in srgb, var(--ink) 40%, transparent);
}
.pennant.decides {
  stroke: var(--ink);
  stroke-width: 1.6;
}
.done .pennant {
  opacity: 0.45;
}
.looked .pennant,
.hang:focus-visible .pennant {
  stroke: var(--fern);
  stroke-width: 2.6;
}
.bold {
  font-weight: 700;
}
.pin {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.ghost {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1.4;
  stroke-dasharray: 4 3;
  pointer-events: none;
}
.ghost.own {
  stroke: var(--fern);
  stroke-width: 2.4;
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
