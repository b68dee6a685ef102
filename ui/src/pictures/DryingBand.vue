<script setup lang="ts">
import { computed } from 'vue'
import type { DryView } from '../api/client'

const props = defineProps<{ dry: DryView; swatch: string }>()
const W = window.innerWidth < 720 ? 400 : 800
const L = 60
const R = W - 20
const end = computed(() => Math.max(1, props.dry.endHour))
// square root of time: minutes and days both stay legible
const x = (h: number) => L + (R - L) * Math.sqrt(Math.min(h, end.value) / end.value)
const ticks = computed(() => {
  const out: { h: number; say: string }[] = []
  for (const [h, say] of [
    [0.25, '15 min'],
    [1, '1 h'],
    [3, '3 h'],
    [8, '8 h'],
    [24, '1 day'],
    [72, '3 days'],
    [168, '1 week'],
  ] as [number, string][]) {
    const last = out[out.length - 1]
    if (h < end.value && (!last || x(h) - x(last.h) > 62)) out.push({ h, say })
  }
  return out
})
const shown = computed(() => props.dry.stages.filter((s) => s.p50 >= 0))
const height = computed(() => 40 + props.dry.stages.length * 40)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${W} ${height}`" class="band" aria-hidden="true">
      <g v-for="t in ticks" :key="t.h">
        <path :d="`M${x(t.h)} 8V${height - 26}`" class="tick" />
        <text :x="x(t.h)" :y="height - 8" text-anchor="middle" class="quiet">{{ t.say }}</text>
      </g>
      <g v-for="(s, i) in dry.stages" :key="s.code" :transform="`translate(0 ${14 + i * 40})`">
        <text :x="L - 14" y="16" text-anchor="end" class="name">{{ s.say }}</text>
        <path :d="`M${L} 11H${R}`" class="line" />
        <text v-if="s.p50 > end" :x="R" y="16" text-anchor="end" class="later">later: {{ s.text }}</text>
        <template v-else-if="s.p50 >= 0">
          <rect
            :x="x(s.p10)"
            y="2"
            :width="Math.max(6, (s.p90 >= 0 ? x(s.p90) : R) - x(s.p10))"
            height="18"
            rx="9"
            :fill="swatch"
            class="span"
          />
          <circle :cx="x(s.p50)" cy="11" r="5" class="mid" />
        </template>
        <text v-else :x="L + 8" y="16" class="never">{{ s.text }}</text>
      </g>
    </svg>
    <figcaption>
      <table class="facts">
        <caption class="vh">
          Stages of drying
        </caption>
        <thead>
          <tr>
            <th scope="col">stage</th>
            <th scope="col">after about</th>
            <th scope="col">8 of 10 times</th>
            <th scope="col">then</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in dry.stages" :key="s.code">
            <th scope="row">{{ s.say }}</th>
            <td :class="{ danger: s.status === 'never' }">{{ s.text }}</td>
            <td>{{ s.band }}</td>
            <td>{{ s.means }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="!shown.length && !dry.stages.length" class="quiet">No times yet.</p>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
.band {
  width: 100%;
  height: auto;
  display: block;
}
text {
  font-family: 'Figtree Variable', sans-serif;
  font-size: 14px;
  fill: var(--ink);
}
text.quiet {
  fill: var(--quiet);
  font-size: 12.5px;
}
.name {
  font-weight: 600;
}
.later {
  fill: var(--quiet);
}
.never {
  fill: var(--rosehip);
  font-weight: 600;
}
.tick,
.line {
  stroke: var(--linen);
  stroke-width: 1;
}
.span {
  stroke: rgb(0 0 0 / 0.3);
  fill-opacity: 0.85;
}
.mid {
  fill: var(--flour);
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
