<script setup lang="ts">
import { computed } from 'vue'
import type { PortionView } from '../api/client'

// The balls of a press in a row, each as large as it weighs: weighed, next, and still to come; pairs stand together.
const props = defineProps<{ portions: PortionView; swatch: string }>()
const PER_ROW = 12
const SIZE = 40
const shown = computed(() => Math.min(120, Math.max(props.portions.of, props.portions.balls.length)))
const mean = computed(() => {
  const all = props.portions.balls.map((b) => b.grams)
  return all.length ? all.reduce((a, b) => a + b, 0) / all.length : 1
})
// a ball's width goes with the cube root of its weight: drawn three times as plain as that
const r = (g: number) => 13 * Math.min(1.35, Math.max(0.65, 1 + 3 * (Math.cbrt(g / mean.value) - 1)))
const at = (i: number) => {
  const k = i % PER_ROW
  const pair = props.portions.pairs ? (k % 2 ? -5 : 5) : 0
  return { x: k * SIZE + SIZE / 2 + pair, y: Math.floor(i / PER_ROW) * (SIZE + 14) + SIZE / 2 }
}
const rows = computed(() => Math.ceil(shown.value / PER_ROW))
</script>

<template>
  <svg
    class="balls"
    :viewBox="`0 0 ${PER_ROW * SIZE} ${rows * (SIZE + 14)}`"
    role="img"
    :aria-label="`${portions.says}. ${portions.balls
      .map((b, i) => (b.says ? `Ball ${i + 1}: ${b.says}` : ''))
      .filter(Boolean)
      .join('. ')}`"
  >
    <template v-for="i in shown" :key="i">
      <circle
        v-if="portions.balls[i - 1]"
        :cx="at(i - 1).x"
        :cy="at(i - 1).y"
        :r="r(portions.balls[i - 1]?.grams ?? 1)"
        :fill="swatch"
        :class="portions.balls[i - 1]?.verdict"
      />
      <circle
        v-else
        :cx="at(i - 1).x"
        :cy="at(i - 1).y"
        r="13"
        :class="i - 1 === portions.balls.length ? 'next' : 'open'"
      />
      <text
        v-if="portions.balls[i - 1]"
        :x="at(i - 1).x"
        :y="at(i - 1).y + SIZE / 2 + 8"
        :class="portions.balls[i - 1]?.verdict"
      >
        {{ portions.balls[i - 1]?.text }}
      </text>
    </template>
  </svg>
</template>

<style scoped>
.balls {
  width: 100%;
  max-height: 240px;
}
circle {
  stroke: var(--ink);
  stroke-width: 1;
}
circle.under,
circle.over {
  stroke: var(--rosehip);
  stroke-width: 3;
}
circle.under {
  stroke-dasharray: 4 3;
}
circle.next {
  fill: none;
  stroke: var(--fern);
  stroke-width: 3;
}
circle.open {
  fill: none;
  stroke: var(--quiet);
  stroke-dasharray: 2 3;
}
text {
  font-size: 10px;
  text-anchor: middle;
  fill: var(--quiet);
  font-variant-numeric: tabular-nums;
}
text.under,
text.over {
  fill: var(--rosehip);
  font-weight: 600;
}
</style>
