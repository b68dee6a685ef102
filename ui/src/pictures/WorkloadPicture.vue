<script setup lang="ts">
import { computed } from 'vue'
import type { WorkloadView } from '../api/client'

// Hands against the hours of each day, and below it how much of each thing is held at once.
const props = defineProps<{ load: WorkloadView }>()
const DAY = 33
const NAME = 170
const HIGH = 150 // of the fullest day
const ROW = 24
const width = computed(() => NAME + props.load.days.length * DAY)
const high = (minutes: number) => (minutes / Math.max(1, props.load.most)) * HIGH
const top = HIGH + 26
const height = computed(() => top + 30 + props.load.held.length * ROW + 8)
const x = (i: number) => NAME + i * DAY
const week = (name: string) => name.startsWith('Mon')
const short = (s: string) => (s.length > 25 ? `${s.slice(0, 24)}…` : s)
</script>

<template>
  <div class="frame" tabindex="0" role="group" aria-label="Hands and hours, drawn; the table below says the same">
    <svg :viewBox="`0 0 ${width} ${height}`" aria-hidden="true">
      <text x="0" :y="18" class="head">hands in the hours</text>
      <g v-for="(d, i) in load.days" :key="d.date">
        <title>{{ d.says }}{{ d.over && `; handed over: ${d.over}` }}</title>
        <template v-if="week(d.name)">
          <path :d="`M${x(i)} 4V${height - 6}`" class="monday" />
          <text :x="x(i) + 5" y="18" class="day">{{ d.name }}</text>
        </template>
        <rect
          v-if="d.open"
          :x="x(i) + 5"
          :y="top - high(d.open)"
          :width="DAY - 10"
          :height="high(d.open)"
          class="open"
        />
        <rect
          v-if="d.busy"
          :x="x(i) + 5"
          :y="top - high(d.busy)"
          :width="DAY - 10"
          :height="high(d.busy)"
          class="busy"
          :class="{ full: d.full }"
        />
        <path v-if="d.open" :d="`M${x(i) + 2} ${top - high(d.open) * load.share}h${DAY - 4}`" class="share" />
        <path v-if="d.over" :d="`M${x(i) + DAY / 2} ${top + 2}l5 5l-5 5l-5 -5z`" class="over" />
        <text :x="x(i) + DAY / 2" :y="top + 24" text-anchor="middle" class="day">
          {{ d.name.slice(4) }}
        </text>
      </g>
      <path :d="`M${NAME} ${top}H${width}`" class="base" />
      <g v-for="(h, k) in load.held" :key="h.name">
        <title>{{ h.says }}</title>
        <text x="0" :y="top + 30 + k * ROW + 17">
          {{ short(h.name) }}
          <tspan class="of">of {{ h.of }}</tspan>
        </text>
        <template v-for="(p, i) in h.peaks" :key="i">
          <rect
            v-if="p"
            :x="x(i) + 3"
            :y="top + 30 + k * ROW + 3"
            :width="DAY - 6"
            :height="ROW - 6"
            rx="4"
            class="held"
            :class="{ all: p >= h.of }"
          />
          <text
            v-if="p"
            :x="x(i) + DAY / 2"
            :y="top + 30 + k * ROW + 17"
            text-anchor="middle"
            :class="{ on: p >= h.of }"
          >
            {{ p }}
          </text>
        </template>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.frame {
  overflow-x: auto;
}
svg {
  display: block;
  width: 100%;
  min-width: 1000px;
}
text {
  font-family: 'Figtree Variable', sans-serif;
  font-size: 13px;
  fill: var(--ink);
}
.head,
.of,
.day {
  fill: var(--quiet);
}
.open {
  fill: var(--flour);
  stroke: var(--quiet);
}
.busy {
  fill: var(--moss);
}
.busy.full {
  fill: var(--honey);
}
.share {
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
.base {
  stroke: var(--ink);
}
.monday {
  stroke: var(--linen);
}
.over {
  fill: var(--fern);
}
.held {
  fill: var(--sage);
}
.held.all {
  fill: var(--fern);
}
.on {
  fill: var(--flour);
  font-weight: 650;
}
</style>
