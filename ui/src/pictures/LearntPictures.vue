<script setup lang="ts">
import { computed } from 'vue'
import type { TaughtView } from '../api/client'

// What was noted beside what was foretold, with the bands as they were then; minutes a piece by the month; damp against
// how long it took.
const props = defineProps<{ v: TaughtView }>()
const W = 560
const H = 230
const L = 62
const R = W - 12
const T = 14
const B = H - 30
const pts = computed(() => props.v.beside)
const most = computed(() => Math.max(2, ...pts.value.map((p) => Math.max(p.hours, p.high))) * 1.05)
const least = computed(() =>
  Math.max(0.05, Math.min(...pts.value.map((p) => Math.min(p.hours, p.low || p.mid))) * 0.85),
)
const y = (h: number) =>
  B - ((Math.log(h) - Math.log(least.value)) / (Math.log(most.value) - Math.log(least.value))) * (B - T)
const x = (i: number) => L + ((i + 0.5) / Math.max(1, pts.value.length)) * (R - L)
const ticks = computed(() =>
  [0.1, 0.25, 0.5, 1, 2, 4, 8, 16, 32, 64, 128, 256].filter((h) => h > least.value && h < most.value),
)
const width = computed(() => Math.min(22, ((R - L) / Math.max(1, pts.value.length)) * 0.6))
const top = computed(() => Math.max(1, ...props.v.months.map((m) => m.minutes)) * 1.1)
const damp = computed(() => {
  const r = props.v.room.map((p) => p.rh)
  return { lo: Math.min(30, ...r) - 2, hi: Math.max(70, ...r) + 2 }
})
const dx = (rh: number) => L + ((rh - damp.value.lo) / (damp.value.hi - damp.value.lo)) * (R - L)
const ratio = computed(() => Math.max(2, ...props.v.room.map((p) => p.ratio)) * 1.1)
const dy = (r: number) => B - (r / ratio.value) * (B - T)
</script>

<template>
  <div class="pictures">
    <figure v-if="pts.length" class="flour">
      <figcaption><h3>Foretold and noted</h3></figcaption>
      <svg :viewBox="`0 0 ${W} ${H}`" aria-hidden="true">
        <g v-for="t in ticks" :key="t">
          <path :d="`M${L} ${y(t)}H${R}`" class="hair" />
          <text :x="L - 6" :y="y(t) + 4" text-anchor="end">{{ t }} h</text>
        </g>
        <g v-for="(p, i) in pts" :key="i" :class="{ out: p.out }">
          <title>{{ p.says }}</title>
          <rect
            v-if="p.high"
            :x="x(i) - width / 2"
            :y="y(p.high)"
            :width="width"
            :height="Math.max(2, y(Math.max(p.low, least)) - y(p.high))"
            rx="3"
            class="band"
          />
          <path :d="`M${x(i) - width / 2} ${y(p.mid)}h${width}`" class="mid" />
          <path
            v-if="p.kind !== 'at'"
            :d="
              p.kind === 'after'
                ? `M${x(i)} ${y(p.hours)}v-14m-4 5l4 -5l4 5`
                : `M${x(i)} ${y(p.hours)}v14m-4 -5l4 5l4 -5`
            "
            class="way"
          />
          <circle :cx="x(i)" :cy="y(p.hours)" r="4.5" class="dot" />
        </g>
      </svg>
      <p class="quiet small">
        Bands as they were foretold then, oldest first: they narrow as notes come. A dot is a look; an arrow up, still
        soft then; down, firm by then.
      </p>
    </figure>
    <figure v-if="v.room.length" class="flour">
      <figcaption><h3>Damp air and time</h3></figcaption>
      <svg :viewBox="`0 0 ${W} ${H}`" aria-hidden="true">
        <path :d="`M${L} ${dy(1)}H${R}`" class="hair" />
        <text :x="L - 6" :y="dy(1) + 4" text-anchor="end">as usual</text>
        <text v-if="ratio > 2" :x="L - 6" :y="dy(2) + 4" text-anchor="end">twice</text>
        <path v-if="ratio > 2" :d="`M${L} ${dy(2)}H${R}`" class="hair" />
        <rect :x="dx(60)" :y="T" :width="Math.max(0, R - dx(60))" :height="B - T" class="slow" />
        <g v-for="m in [35, 40, 45, 50, 55, 60, 65, 70]" :key="m">
          <text v-if="m > damp.lo && m < damp.hi" :x="dx(m)" :y="H - 10" text-anchor="middle">{{ m }} %</text>
        </g>
        <circle v-for="(p, i) in v.room" :key="i" :cx="dx(p.rh)" :cy="dy(p.ratio)" r="5" class="dot">
          <title>{{ p.says }}</title>
        </circle>
      </svg>
      <p class="quiet small">How much longer than in a usual room, 21 °C and 45 %, by the humidity it lay in.</p>
    </figure>
    <figure v-if="v.months.length" class="flour">
      <figcaption><h3>Minutes a piece</h3></figcaption>
      <svg :viewBox="`0 0 ${W} ${H}`" aria-hidden="true">
        <g v-for="(m, i) in v.months" :key="i">
          <title>{{ m.says }}</title>
          <rect
            :x="L + (i / Math.max(6, v.months.length)) * (R - L) + 6"
            :y="B - (m.minutes / top) * (B - T)"
            :width="(R - L) / Math.max(6, v.months.length) - 12"
            :height="(m.minutes / top) * (B - T)"
            rx="4"
            class="bar"
          />
          <text
            :x="L + ((i + 0.5) / Math.max(6, v.months.length)) * (R - L)"
            :y="B - (m.minutes / top) * (B - T) - 4"
            text-anchor="middle"
          >
            {{ m.minutes.toFixed(1) }}
          </text>
          <text :x="L + ((i + 0.5) / Math.max(6, v.months.length)) * (R - L)" :y="H - 10" text-anchor="middle">
            {{ m.month }}
          </text>
        </g>
      </svg>
      <p class="quiet small">Hands at steps that make pieces and were clocked, over the pieces that came of them.</p>
    </figure>
  </div>
</template>

<style scoped>
.pictures {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: 14px;
}
figure {
  margin: 0;
  padding: 12px 16px;
}
svg {
  display: block;
  width: 100%;
}
text {
  font:
    12.5px 'Figtree Variable',
    sans-serif;
  fill: var(--quiet);
}
.hair {
  stroke: var(--linen);
}
.band {
  fill: var(--sage);
}
.mid {
  stroke: var(--moss);
  stroke-width: 2;
}
.dot {
  fill: var(--fern);
}
.way {
  fill: none;
  stroke: var(--fern);
  stroke-width: 1.8;
}
.out {
  opacity: 0.35;
}
.slow {
  fill: var(--honey-fill);
  opacity: 0.6;
}
.bar {
  fill: var(--moss);
}
</style>
