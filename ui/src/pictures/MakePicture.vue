<script setup lang="ts">
import { computed } from 'vue'
import type { PieceView } from '../api/client'

// What is measured, to scale from its numbers: the piece as it lies, the ball beside it, and how many lie on one sheet
// or tray.
const props = defineProps<{ picture?: NonNullable<PieceView['make']>['picture']; swatch: string }>()
const p = computed(() => props.picture)
const GAP = 10
const grid = computed(() => {
  const x = p.value
  if (!x || !x.fieldLengthMM) return []
  const out: { x: number; y: number }[] = []
  for (let i = 0; i < x.onField; i++) {
    out.push({
      x: GAP / 2 + (i % x.perRow) * (x.lengthMM + GAP),
      y: GAP / 2 + Math.floor(i / x.perRow) * (x.widthMM + GAP),
    })
  }
  return out
})
const left = computed(() => Math.max((p.value?.lengthMM ?? 0) + 24 + (p.value?.ballMM ?? 0), 130))
const wide = computed(() => left.value + (p.value?.fieldLengthMM ?? 0) + 8)
const tall = computed(() =>
  Math.max((p.value?.widthMM ?? 0) + 30, p.value?.ballMM ?? 0, p.value?.fieldWidthMM ?? 0, 60),
)
</script>

<template>
  <figure v-if="p && p.lengthMM > 0" class="pic">
    <svg :viewBox="`-2 -2 ${wide + 4} ${tall + 4}`" role="img" :aria-label="p.says">
      <rect
        x="0"
        :y="0"
        :width="p.lengthMM"
        :height="p.widthMM"
        :rx="Math.min(p.lengthMM, p.widthMM) * p.round"
        :fill="swatch"
      />
      <circle
        v-if="p.ballMM"
        :cx="p.lengthMM + 12 + p.ballMM / 2"
        :cy="p.ballMM / 2"
        :r="p.ballMM / 2"
        :fill="swatch"
      />
      <g :transform="`translate(0 ${tall - 8})`" class="rule">
        <path d="M0 -5V5M0 0H50M50 -5V5" />
        <text x="56" y="4">50 mm</text>
      </g>
      <g v-if="grid.length" :transform="`translate(${left} 0)`">
        <rect :width="p.fieldLengthMM" :height="p.fieldWidthMM" rx="3" class="field" />
        <rect
          v-for="(g, i) in grid"
          :key="i"
          :x="g.x"
          :y="g.y"
          :width="p.lengthMM"
          :height="p.widthMM"
          :rx="Math.min(p.lengthMM, p.widthMM) * p.round"
          :fill="swatch"
        />
      </g>
    </svg>
    <figcaption class="quiet small">{{ p.says }}</figcaption>
  </figure>
</template>

<style scoped>
.pic {
  margin: 16px 0;
}
svg {
  display: block;
  width: 100%;
  max-width: 640px;
  max-height: 260px;
  stroke: var(--ink);
  stroke-width: 1;
}
svg * {
  vector-effect: non-scaling-stroke;
}
.field {
  fill: var(--flour);
  stroke-dasharray: 5 4;
}
text {
  stroke: none;
  fill: var(--quiet);
  font-size: 13px;
}
.rule path {
  fill: none;
  stroke: var(--quiet);
}
</style>
