<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { PasteView } from '../api/client'

const props = defineProps<{ paste: PasteView }>()
const emit = defineEmits<{ peg: [percent: number] }>()

// a narrow page gets a narrower drawing, so that its words stay legible
const narrow = window.innerWidth < 720
const W = narrow ? 400 : 800
const L = 26
const R = W - 26
const H = 46 // of one demand
const x = (e: number) => L + ((R - L) * Math.min(e, props.paste.axisEnd)) / props.paste.axisEnd
const top = 12
const axisY = computed(() => top + props.paste.bars.length * H + 44)
const height = computed(() => axisY.value + 74)
const held = ref<number | null>(null)
const peg = computed(() => held.value ?? props.paste.peg?.value ?? null)
const beyond = computed(() => peg.value !== null && peg.value > props.paste.axisEnd)
watch(
  () => props.paste.peg?.value,
  () => (held.value = null),
)
const svg = ref<SVGSVGElement>()
function at(e: PointerEvent): number {
  const box = svg.value?.getBoundingClientRect()
  if (!box) return props.paste.advised
  const px = ((e.clientX - box.left) / box.width) * W
  const percent = ((px - L) / (R - L)) * props.paste.axisEnd
  return Math.round(Math.max(0, Math.min(props.paste.axisEnd, percent)) * 20) / 20
}
function grab(e: PointerEvent) {
  if (peg.value === null) return
  ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
  held.value = at(e)
}
function drag(e: PointerEvent) {
  if ((e.currentTarget as Element).hasPointerCapture(e.pointerId)) held.value = at(e)
}
function drop(e: PointerEvent) {
  if (!(e.currentTarget as Element).hasPointerCapture(e.pointerId)) return
  ;(e.currentTarget as Element).releasePointerCapture(e.pointerId)
  if (held.value !== null) emit('peg', held.value)
}
let wait = 0
function nudge(by: number) {
  if (peg.value === null) return
  held.value = Math.round(Math.max(0, Math.min(5, peg.value + by)) * 100) / 100
  window.clearTimeout(wait)
  const to = held.value
  wait = window.setTimeout(() => emit('peg', to), 250)
}
const marks = computed(() => {
  let last = -1e9
  let low = false
  return props.paste.axis.map((m) => {
    low = x(m.at) - last < 112 && !low
    last = x(m.at)
    return { ...m, low }
  })
})
const anchor = (e: number) => (x(e) < 120 ? 'start' : x(e) > W - 150 ? 'end' : 'middle')
const barText = (from: number, to: number) => {
  const start = x(from)
  return start > W - (narrow ? 210 : 320)
    ? { x: x(to), anchor: 'end' as const }
    : { x: start, anchor: 'start' as const }
}
</script>

<template>
  <figure>
    <svg ref="svg" :viewBox="`0 0 ${W} ${height}`" class="rail" role="group" aria-label="Firmness rail">
      <rect
        v-if="paste.open"
        :x="x(paste.from)"
        :y="4"
        :width="Math.max(4, x(paste.to) - x(paste.from))"
        :height="axisY - 12"
        rx="8"
        class="window"
      />
      <g v-for="(b, i) in paste.bars" :key="b.code">
        <text
          :x="barText(b.from, b.to).x"
          :y="top + i * H + 16"
          :text-anchor="barText(b.from, b.to).anchor"
          class="say"
        >
          <tspan class="what" :class="{ broken: !b.met }">{{ b.say }}</tspan>
          <tspan v-if="!narrow" dx="8" class="why">{{ b.span }}</tspan>
        </text>
        <rect
          :x="x(b.from)"
          :y="top + i * H + 25"
          :width="Math.max(4, x(b.to) - x(b.from))"
          height="9"
          rx="4.5"
          :class="b.hard ? 'hard' : 'soft'"
        />
      </g>
      <path :d="`M${L} ${axisY}H${R}`" class="axis" />
      <g v-for="m in marks" :key="m.say">
        <path :d="`M${x(m.at)} ${axisY - 6}v12`" class="axis" />
        <text :x="x(m.at)" :y="axisY + (m.low ? 40 : 24)" :text-anchor="anchor(m.at)" class="mark">{{ m.say }}</text>
      </g>
      <text :x="L" :y="axisY + 62" class="why">supple, good to eat</text>
      <text :x="R" :y="axisY + 62" text-anchor="end" class="why">rigid, for show</text>
      <g
        v-if="peg !== null"
        role="slider"
        tabindex="0"
        aria-label="Peg: gum strength in per cent"
        :aria-valuenow="peg"
        aria-valuemin="0"
        :aria-valuemax="5"
        :aria-valuetext="`${peg} per cent gum, ${paste.pegSays}`"
        class="peg"
        :class="{ off: paste.broken.length }"
        :transform="`translate(${x(peg)} ${axisY})`"
        @pointerdown="grab"
        @pointermove="drag"
        @pointerup="drop"
        @keydown.left.prevent="nudge(-0.05)"
        @keydown.right.prevent="nudge(0.05)"
        @keydown.down.prevent="nudge(-0.05)"
        @keydown.up.prevent="nudge(0.05)"
        @keydown.page-up.prevent="nudge(0.5)"
        @keydown.page-down.prevent="nudge(-0.5)"
      >
        <rect x="-24" y="-44" width="48" height="60" fill="transparent" />
        <path d="M-18 -34H18V-12L0 8L-18 -12Z" class="pegshape" />
        <text y="-16" text-anchor="middle" class="pegtext">{{ Number(peg.toFixed(2)) }}</text>
        <path v-if="beyond" d="M22 -24h14m-6 -6l6 6l-6 6" class="axis" />
      </g>
    </svg>
    <figcaption class="vh">
      <table>
        <caption>
          Demands over gum strength, in per cent
        </caption>
        <tbody>
          <tr v-for="b in paste.bars" :key="b.code">
            <th scope="row">{{ b.say }}</th>
            <td>{{ b.span }}</td>
            <td>{{ b.hard ? 'must' : 'wish' }}</td>
            <td>{{ b.met ? 'met' : 'not met' }}</td>
          </tr>
        </tbody>
      </table>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  position: relative;
}
.rail {
  width: 100%;
  max-width: 900px;
  height: auto;
  display: block;
  touch-action: none;
}
text {
  font-family: 'Figtree Variable', sans-serif;
  fill: var(--ink);
  font-size: 14px;
}
.what {
  font-weight: 650;
}
.what.broken {
  fill: var(--rosehip);
}
.why {
  fill: var(--quiet);
}
.mark {
  font-size: 13px;
}
.hard {
  fill: var(--fern);
}
.soft {
  fill: var(--moss);
}
.window {
  fill: var(--sage-light);
}
.axis {
  stroke: var(--ink);
  stroke-width: 1.8;
  fill: none;
}
.peg {
  cursor: grab;
}
.pegshape {
  fill: var(--fern);
}
.peg.off .pegshape {
  fill: var(--rosehip);
}
.pegtext {
  fill: var(--on-fern);
  font-weight: 700;
}
</style>
