<script setup lang="ts">
import { computed } from 'vue'
import type { FadeView } from '../api/client'

// The side of the tier, row by row: how many passes lie at which height, and how much they hide.
const props = defineProps<{ fade: FadeView; swatch: string }>()
const high = computed(() => props.fade.highMM)
const y = (mm: number) => 150 - (mm / high.value) * 140
const rows = computed(() => props.fade.bands.filter((b) => b.cover >= 0))
const pitch = computed(() =>
  rows.value.length > 1 ? (rows.value[1]?.atMM ?? 0) - (rows.value[0]?.atMM ?? 0) : high.value,
)
const most = computed(() => Math.max(1, ...props.fade.bands.map((b) => b.passes)))
</script>

<template>
  <svg viewBox="0 0 420 176" class="fade" role="img" :aria-label="fade.says">
    <rect x="60" y="10" width="150" height="140" fill="#fffdf6" class="rim" />
    <rect
      v-for="b in rows"
      :key="b.atMM"
      x="60"
      :y="y(b.atMM + pitch / 2)"
      width="150"
      :height="Math.max(1, y(b.atMM - pitch / 2) - y(b.atMM + pitch / 2))"
      :fill="swatch"
      :opacity="b.cover"
    />
    <g v-for="b in fade.bands" :key="'p' + b.atMM">
      <rect x="230" :y="y(b.atMM) - 4" :width="(b.passes / most) * 120" height="8" class="bar" />
      <text :x="236 + (b.passes / most) * 120" :y="y(b.atMM) + 4">{{ b.passes }}</text>
    </g>
    <text x="230" y="174">passes in each row</text>
    <text x="54" :y="y(high) + 8" text-anchor="end">{{ Math.round(high) }}</text>
    <text x="54" :y="y(0)" text-anchor="end">0 mm</text>
  </svg>
</template>

<style scoped>
.fade {
  width: min(560px, 100%);
}
.rim {
  stroke: var(--linen);
}
.bar {
  fill: var(--moss);
}
text {
  font-size: 11px;
  fill: var(--quiet);
}
</style>
