<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { api, Refused, take, type RollOutView } from '../api/client'
import { useAct, useStudio } from '../api/queries'
import WhyNumber from '../parts/WhyNumber.vue'

// The rolled sheet from above with what is cut of it, at one scale with the sheets that are rolled one after the other.
// A piece is put down by pointer or keys; where it lies and how many others still fit is the server's answer.
const props = defineProps<{ roll: RollOutView; piece: number; swatch: string; name: string }>()
const studio = useStudio()
type Laid = RollOutView['full'][number]
const fault = ref('')
const said = ref('')
const svg = ref<SVGSVGElement>()
const moved = ref<{ at: number; x: number; y: number; deg: number } | null>(null)
watch(
  () => props.roll,
  () => (moved.value = null),
)
const all = computed(() =>
  props.roll.full.map((p, i) =>
    moved.value?.at === i ? { ...p, xMM: moved.value.x, yMM: moved.value.y, deg: moved.value.deg, held: true } : p,
  ),
)
const lay = useAct((s, laid: { xMM: number; yMM: number; deg: number }[]) =>
  take(api.POST('/s/{studio}/pieces/{id}/laid', { params: { path: { studio: s, id: props.piece } }, body: { laid } })),
)
async function keep(laid: Laid[]) {
  fault.value = ''
  try {
    await lay.mutateAsync(laid.map(({ xMM, yMM, deg }) => ({ xMM, yMM, deg })))
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not kept.'
    moved.value = null
  }
}
const held = () => all.value.filter((p) => p.held)
// a pointer drags, and lets go where it is let go
let from: { x: number; y: number } | null = null
function spot(e: PointerEvent) {
  const m = svg.value?.getScreenCTM()
  return m ? new DOMPoint(e.clientX, e.clientY).matrixTransform(m.inverse()) : new DOMPoint()
}
function down(e: PointerEvent, i: number) {
  const p = props.roll.full[i]
  if (!p || e.button !== 0) return
  const at = spot(e)
  from = { x: at.x - p.xMM, y: at.y - p.yMM }
  moved.value = { at: i, x: p.xMM, y: p.yMM, deg: p.deg }
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
}
function drag(e: PointerEvent) {
  if (!from || !moved.value) return
  const at = spot(e)
  moved.value = { ...moved.value, x: at.x - from.x, y: at.y - from.y }
}
function drop() {
  const m = moved.value
  const was = m && props.roll.full[m.at]
  from = null
  if (!m || !was) return
  if (Math.hypot(m.x - was.xMM, m.y - was.yMM) < 0.5) moved.value = null
  else void keep(held())
}
// keys move by a millimetre; what they did is sent once they rest
let rest = 0
onBeforeUnmount(() => window.clearTimeout(rest))
const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function keys(e: KeyboardEvent, i: number) {
  const p = all.value[i]
  if (!p) return
  const by = arrows[e.key]
  if (by) {
    const far = e.shiftKey ? 10 : 1
    moved.value = { at: i, x: p.xMM + by[0] * far, y: p.yMM + by[1] * far, deg: p.deg }
  } else if (e.key === 'r' || e.key === 'R') {
    const turns = props.roll.turns
    const next = turns[(turns.indexOf(p.deg) + 1) % turns.length] ?? 0
    moved.value = { at: i, ...about(p, next), deg: next }
  } else if ((e.key === 'Delete' || e.key === 'Backspace') && p.held) {
    e.preventDefault()
    void keep(held().filter((x) => x !== p))
    return
  } else return
  e.preventDefault()
  e.stopPropagation()
  said.value = `${Math.round(moved.value.x)} mm from the left, ${Math.round(moved.value.y)} mm from above, turned ${moved.value.deg}`
  window.clearTimeout(rest)
  rest = window.setTimeout(() => void keep(held()), 400)
}
/** Turned about its middle it stays where it lay. */
function about(p: Laid, deg: number) {
  const path = svg.value?.querySelector<SVGPathElement>('path.cut')
  if (!path) return { x: p.xMM, y: p.yMM }
  const b = path.getBBox()
  const [mx, my] = [b.x + b.width / 2, b.y + b.height / 2]
  const turn = (d: number) => {
    const [s, c] = [Math.sin((d * Math.PI) / 180), Math.cos((d * Math.PI) / 180)]
    return [mx * c - my * s, mx * s + my * c] as const
  }
  const [a, z] = [turn(p.deg), turn(deg)]
  return { x: p.xMM + a[0] - z[0], y: p.yMM + a[1] - z[1] }
}
const place = (p: { xMM: number; yMM: number; deg: number }) => `translate(${p.xMM} ${p.yMM}) rotate(${p.deg})`
const link = (as: string) => `/api/s/${studio.value}/print/sheet/${props.piece}/${as}`
const figures = computed(() => [props.roll.perSheet, props.roll.atOnce, props.roll.grams].filter((f) => !!f))
const short = computed(() => props.roll.sheets.slice(0, 12))
</script>

<template>
  <section class="roll" :aria-label="`Rolled out: ${name}`">
    <h3>Rolled out</h3>
    <p>{{ roll.says }}</p>
    <div class="row figures">
      <div v-for="f in figures" :key="f.unit">
        <span class="big">{{ f.text }}</span>
        <span class="quiet small">{{ f.unit }} <WhyNumber :why="f.why" :of="`${f.text}, ${f.unit}`" /></span>
      </div>
    </div>
    <p v-for="n in roll.notes" :key="n" class="soon">{{ n }}</p>
    <template v-if="roll.full.length">
      <svg
        ref="svg"
        :viewBox="`-2 -2 ${roll.boardLongMM + 4} ${roll.boardWideMM + 16}`"
        class="sheet"
        role="group"
        :aria-label="`The board, ${roll.boardLongMM} by ${roll.boardWideMM} mm, with ${roll.full.length} outlines`"
        @pointermove="drag"
        @pointerup="drop"
        @pointercancel="drop"
      >
        <rect :width="roll.boardLongMM" :height="roll.boardWideMM" rx="3" class="board" />
        <g
          v-for="(p, i) in all"
          :key="i"
          :transform="place(p)"
          class="lies"
          :class="{ held: p.held, off: p.off }"
          tabindex="0"
          role="button"
          :aria-label="`Outline ${i + 1}${p.held ? ', put down by hand' : ''}${p.off ? ', lies on another: not counted' : ''}. Arrows move it, R turns it, Delete lets it go`"
          @pointerdown="down($event, i)"
          @keydown="keys($event, i)"
        >
          <path :d="roll.outlines[p.of]" class="cut" fill-rule="evenodd" :fill="swatch" />
        </g>
        <path :d="`M1 ${roll.boardWideMM + 5}v3m0 -1.5h50m0 -1.5v3`" class="rule" />
        <text x="54" :y="roll.boardWideMM + 9" font-size="7">50 mm</text>
      </svg>
      <p class="quiet small">
        Drag one, or choose it and use the arrows; R turns it, Delete lets it go. The others fill what is left.
      </p>
      <p class="vh" role="status">{{ said }}</p>
    </template>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <div class="row">
      <Button
        v-if="roll.byHand"
        label="Let them lie as they fit best"
        severity="secondary"
        outlined
        @click="keep([])"
      />
      <template v-if="roll.outlines.length">
        <a :href="link('pdf')" target="_blank" rel="noopener">Print it at true size (PDF)</a>
        <a :href="link('svg')" target="_blank" rel="noopener">as a drawing (SVG)</a>
      </template>
    </div>
    <ol v-if="roll.sheets.length" class="sheets">
      <li v-for="(s, i) in short" :key="i">
        <svg
          :viewBox="`-1 -1 ${s.longMM + 2} ${s.wideMM + 2}`"
          :style="{ width: `${Math.min(100, (s.longMM / roll.boardLongMM) * 100)}%` }"
          aria-hidden="true"
        >
          <rect :width="s.longMM" :height="s.wideMM" rx="2" class="scrap" />
          <path
            v-for="(p, k) in s.laid"
            :key="k"
            :d="roll.outlines[p.of]"
            :transform="place(p)"
            fill-rule="evenodd"
            :fill="swatch"
          />
        </svg>
        <span class="small">{{ s.says }}</span>
      </li>
    </ol>
    <p v-if="roll.sheets.length > short.length" class="quiet small">
      and {{ roll.sheets.length - short.length }} more like the last.
    </p>
  </section>
</template>

<style scoped>
.roll {
  margin: 22px 0;
}
.roll > p {
  margin: 4px 0;
}
.figures {
  gap: 6px 28px;
  align-items: baseline;
}
.big {
  font-size: 30px;
  margin-right: 8px;
}
.sheet {
  display: block;
  width: min(100%, 720px);
  max-height: 380px;
  margin: 8px 0;
  touch-action: none;
}
.board,
.scrap {
  fill: color-mix(in srgb, var(--linen) 60%, var(--flour));
  stroke: var(--quiet);
  stroke-dasharray: 4 3;
}
.sheet *,
.sheets * {
  vector-effect: non-scaling-stroke;
}
.lies {
  cursor: grab;
  stroke: var(--ink);
  stroke-width: 1;
  outline: none;
}
.lies.held {
  stroke-width: 2.6;
}
.lies.off {
  stroke: var(--rosehip);
  stroke-dasharray: 5 3;
}
.lies:focus-visible path {
  stroke: var(--fern);
  stroke-width: 4;
}
.rule {
  fill: none;
  stroke: var(--ink);
}
.sheet text {
  fill: var(--ink);
}
.sheets {
  list-style: none;
  margin: 14px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 14px 24px;
}
.sheets svg {
  display: block;
  max-height: 150px;
  margin-bottom: 4px;
  stroke: var(--ink);
  stroke-width: 1;
}
</style>
