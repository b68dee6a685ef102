<script setup lang="ts">
import { computed } from 'vue'
import type { ToolView } from '../api/client'

// A mould as what it makes looks from above, at true size beside all others: of an outline that nobody gave, a plain
// shape of its measures.
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
      <template v-else-if="p.shape === 'lip' || p.shape === 'lace'">
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
      <template v-else-if="p.branches">
        <path :d="`M${w / 2} ${h}V0`" class="vein" />
        <path v-for="d in leaflets" :key="d" :d="d" />
      </template>
      <template v-else-if="p.shape === 'sheet'">
        <path :d="leaf" />
        <path v-if="p.veined" :d="lies ? `M0 ${h / 2}H${w}` : `M${w / 2} 0V${h}`" class="vein" />
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
.vein {
  fill: none;
  stroke-width: 1;
}
</style>
