<script setup lang="ts">
import type { lineScale } from './lineScale'

// the days over the line, each over its hours; days without any are folded
defineProps<{ scale: ReturnType<typeof lineScale> }>()
const days = (free: { day: string }[]) =>
  free.length === 1 ? [free[0]?.day ?? '', 'free'] : [`${free[0]?.day} to`, `${free.at(-1)?.day}, free`]
</script>

<template>
  <svg :viewBox="`0 0 ${scale.width} 34`" :width="scale.width" height="34">
    <g v-for="s in scale.parts" :key="s.a">
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
</template>

<style scoped>
svg {
  display: block;
  flex: none;
}
text {
  font-family: 'Figtree Variable', sans-serif;
  font-size: 12px;
  fill: var(--ink);
  pointer-events: none;
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
</style>
