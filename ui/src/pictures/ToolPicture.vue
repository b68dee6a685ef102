<script setup lang="ts">
import { computed } from 'vue'
import type { ToolView } from '../api/client'

// A tool at true size beside all others: a mould as what it makes looks from above, a cutter by its edge, what holds
// pieces by its places; of an outline that nobody gave, a plain shape of its measures.
const props = defineProps<{ picture: ToolView['picture']; scale: number; most?: number }>()
const p = computed(() => props.picture)
const lies = computed(() => p.value.lies)
const w = computed(() => p.value.acrossMM)
const h = computed(() => p.value.highMM)
const gap = 4
const shown = computed(() => Math.min(p.value.cavities, props.most ?? 6))
const across = computed(() => shown.value * w.value + (shown.value - 1) * gap)
/** A thin piece is drawn as a leaf: two arcs from tip to tip. */
const leaf = computed(() => {
  const [a, b] = [w.value, h.value]
  return lies.value
    ? `M0 ${b / 2}Q${a / 2} ${-b / 2} ${a} ${b / 2}Q${a / 2} ${b * 1.5} 0 ${b / 2}Z`
    : `M${a / 2} 0Q${a * 1.5} ${b / 2} ${a / 2} ${b}Q${-a / 2} ${b / 2} ${a / 2} 0Z`
})
/** What branches: a stem with pairs of leaflets, fewer and shorter towards the tip. */
const leaflets = computed(() => {
  const out: string[] = []
  for (let i = 1; i <= 6; i++) {
    const y = h.value * (1 - i / 7.5)
    const r = (w.value / 2) * (1 - (i - 1) / 8)
    for (const side of [-1, 1]) {
      const [x0, x1] = [w.value / 2, w.value / 2 + side * r]
      const up = y - h.value * 0.07
      out.push(
        `M${x0} ${y}Q${(x0 + x1) / 2} ${up - h.value * 0.05} ${x1} ${up}Q${(x0 + x1) / 2} ${y + h.value * 0.02} ${x0} ${y}Z`,
      )
    }
  }
  return out
})
/** What is no mould and cuts nothing is drawn by its kind. */
const cups = computed(() => Array.from({ length: 4 }, (_, i) => i))
const beads = computed(() => Math.min(60, Math.max(1, Math.floor(w.value / Math.max(h.value, 1)))))
</script>

<template>
  <svg
    class="tool"
    :viewBox="`-1 -1 ${across + 2} ${h + 2}`"
    :width="(across + 2) * scale"
    :height="(h + 2) * scale"
    aria-hidden="true"
  >
    <g v-for="n in shown" :key="n" :transform="`translate(${(n - 1) * (w + gap)} 0)`">
      <template v-if="p.beaded">
        <circle
          v-for="i in beads"
          :key="i"
          :cx="((i - 0.5) * w) / beads"
          :cy="h / 2"
          :r="Math.min(h / 2, w / beads / 2)"
        />
      </template>
      <rect v-else-if="p.shape === 'rod'" :width="w" :height="h" :rx="Math.min(w, h) / 2" />
      <circle v-else-if="p.shape === 'ball'" :cx="w / 2" :cy="h / 2" :r="Math.min(w, h) / 2" />
      <path v-else-if="p.shape === 'dome'" :d="`M0 ${h}A${w / 2} ${h} 0 0 1 ${w} ${h}Z`" stroke-linejoin="round" />
      <template v-else-if="p.shape === 'lip'">
        <rect :width="w" :height="h" rx="2" />
        <rect
          v-for="i in 3"
          :key="i"
          :x="w * 0.15"
          :y="h * (0.1 + (i - 1) * 0.29)"
          :width="w * 0.7"
          :height="h * 0.2"
          rx="1"
          class="window"
        />
      </template>
      <template v-else-if="p.shape === 'lace'">
        <rect :width="w" :height="h" rx="2" class="window" />
        <path
          v-for="i in 5"
          :key="i"
          :d="`M0 ${(h * (i - 0.5)) / 5}Q${w * 0.25} ${(h * (i - 1)) / 5} ${w * 0.5} ${(h * (i - 0.5)) / 5}T${w} ${(h * (i - 0.5)) / 5}`"
          class="lines"
        />
      </template>
      <template v-else-if="p.branches">
        <path :d="`M${w / 2} ${h}V0`" class="vein" />
        <path v-for="d in leaflets" :key="d" :d="d" />
      </template>
      <template v-else-if="p.shape === 'sheet'">
        <path :d="leaf" />
        <path v-if="p.veined" :d="lies ? `M0 ${h / 2}H${w}` : `M${w / 2} 0V${h}`" class="vein" />
      </template>
      <template v-else-if="p.outline">
        <path :d="p.outline" class="ring" fill-rule="evenodd" stroke-linejoin="round" />
        <path
          v-if="p.shape === 'plungerCutter'"
          :d="lies ? `M${w * 0.08} ${h / 2}H${w * 0.92}` : `M${w / 2} ${h * 0.08}V${h * 0.92}`"
          class="vein"
        />
      </template>
      <circle v-else-if="['stamp', 'spoonMould'].includes(p.shape)" :cx="w / 2" :cy="h / 2" :r="Math.min(w, h) / 2" />
      <text
        v-else-if="p.shape === 'letterCutter'"
        :x="w / 2"
        :y="h * 0.9"
        text-anchor="middle"
        class="letter"
        :font-size="h"
      >
        a
      </text>
      <template v-else-if="['pin', 'texturedPin'].includes(p.shape)">
        <rect :x="w * 0.12" :width="w * 0.76" :height="h" :rx="h * 0.2" />
        <path :d="`M0 ${h / 2}H${w * 0.12}M${w * 0.88} ${h / 2}H${w}`" class="handle" />
        <path
          v-if="p.shape === 'texturedPin'"
          :d="`M${w * 0.3} 0V${h}M${w * 0.42} 0V${h}M${w * 0.54} 0V${h}M${w * 0.66} 0V${h}`"
          class="vein"
        />
      </template>
      <template v-else-if="p.shape === 'machine'">
        <rect :width="w" :height="h * 0.42" rx="3" />
        <rect :y="h * 0.58" :width="w" :height="h * 0.42" rx="3" />
      </template>
      <template v-else-if="['cup', 'rack', 'hook', 'pedestal'].includes(p.shape)">
        <path
          v-for="i in cups"
          :key="i"
          :d="`M${(i * w) / 4 + 1} 0A${w / 8 - 1} ${h * 0.8} 0 0 0 ${((i + 1) * w) / 4 - 1} 0`"
        />
      </template>
      <path v-else-if="['former', 'dummy'].includes(p.shape)" :d="`M0 ${h}Q${w / 2} ${-h * 0.4} ${w} ${h}Z`" />
      <template v-else-if="p.shape === 'dowel'">
        <circle v-for="i in cups" :key="i" :cx="(i + 0.5) * (w / 4)" :cy="h / 2" :r="Math.min(h / 2, w / 8 - 1)" />
      </template>
      <rect v-else :width="w" :height="h" :rx="Math.min(w, h) * 0.3" />
    </g>
  </svg>
</template>

<style scoped>
.tool {
  display: block;
  fill: var(--sage-light);
  stroke: var(--ink);
  stroke-width: 1.6;
  overflow: visible;
}
.tool * {
  vector-effect: non-scaling-stroke;
}
.window {
  fill: var(--flour);
}
.lines {
  fill: none;
}
.ring {
  fill: var(--flour);
  stroke-width: 2.4;
}
.letter {
  stroke: none;
  fill: var(--ink);
  font-family: 'Fraunces Variable', Fraunces, Georgia, serif;
}
.handle {
  stroke-width: 4;
}
.vein {
  fill: none;
  stroke-width: 1;
}
</style>
