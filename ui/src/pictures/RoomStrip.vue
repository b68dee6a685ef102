<script setup lang="ts">
import { computed, ref } from 'vue'
import type { StripView } from '../api/client'

// Damp and warmth of a place: what was read as a band between its ends, what is expected as a broken line, and the
// lines over which drying slows or stops.
const props = defineProps<{ strip: StripView }>()
const W = 1000
const H = 250
const L = 58
const R = W - 8
const T = 18
const B = H - 62 // of damp
const WT = H - 50 // warmth
const WB = H - 20
const x = (ms: number) => L + ((ms - props.strip.fromMs) / Math.max(1, props.strip.toMs - props.strip.fromMs)) * (R - L)
const all = computed(() => [...props.strip.read, ...props.strip.comes])
const low = computed(() => Math.max(0, Math.floor((Math.min(35, ...all.value.map((p) => p.low)) - 3) / 5) * 5))
const high = computed(() => Math.min(100, Math.ceil((Math.max(72, ...all.value.map((p) => p.high)) + 3) / 5) * 5))
const y = (rh: number) => B - ((rh - low.value) / (high.value - low.value)) * (B - T)
const warm = computed(() => {
  const t = all.value.map((p) => p.tempC)
  return { lo: Math.min(...t) - 1, hi: Math.max(...t) + 1 }
})
const yt = (c: number) => WB - ((c - warm.value.lo) / Math.max(1, warm.value.hi - warm.value.lo)) * (WB - WT)
const path = (ps: { ms: number; rh: number; gap: boolean }[]) =>
  ps.map((p, i) => `${i && !p.gap ? 'L' : 'M'}${x(p.ms).toFixed(1)} ${y(p.rh).toFixed(1)}`).join('')
const warmth = (ps: { ms: number; tempC: number; gap: boolean }[]) =>
  ps.map((p, i) => `${i && !p.gap ? 'L' : 'M'}${x(p.ms).toFixed(1)} ${yt(p.tempC).toFixed(1)}`).join('')
const bands = computed(() => {
  const out: string[] = []
  let run: typeof props.strip.read = []
  const close = () => {
    if (run.length > 1)
      out.push(
        `M${run.map((p) => `${x(p.ms).toFixed(1)} ${y(p.high).toFixed(1)}`).join('L')}L${[...run]
          .reverse()
          .map((p) => `${x(p.ms).toFixed(1)} ${y(p.low).toFixed(1)}`)
          .join('L')}Z`,
      )
    run = []
  }
  for (const p of props.strip.read) {
    if (p.gap) close()
    run.push(p)
  }
  close()
  return out
})
const marks = computed(() => [30, 40, 50, 60, 70, 80, 90].filter((r) => r > low.value && r < high.value))
const at = ref<(typeof all.value)[number]>()
function point(e: PointerEvent) {
  const box = (e.currentTarget as SVGElement).getBoundingClientRect()
  const ms =
    props.strip.fromMs +
    ((((e.clientX - box.left) / box.width) * W - L) / (R - L)) * (props.strip.toMs - props.strip.fromMs)
  at.value = all.value.reduce<(typeof all.value)[number] | undefined>(
    (best, p) => (!best || Math.abs(p.ms - ms) < Math.abs(best.ms - ms) ? p : best),
    undefined,
  )
}
</script>

<template>
  <figure>
    <div class="scroll" tabindex="0" role="group" aria-label="The air, drawn; the words below say the same">
      <svg :viewBox="`0 0 ${W} ${H}`" aria-hidden="true" @pointermove="point" @pointerleave="at = undefined">
        <rect :x="L" :y="T" :width="R - L" :height="Math.max(0, y(strip.lines[0]?.rh ?? 60) - T)" class="slow" />
        <g v-for="m in marks" :key="m">
          <path :d="`M${L} ${y(m)}H${R}`" class="hair" />
          <text :x="L - 6" :y="y(m) + 4" text-anchor="end" class="quiet">{{ m }} %</text>
        </g>
        <g v-for="d in strip.days" :key="d.ms">
          <path :d="`M${x(d.ms)} ${T}V${WB}`" class="hair" />
          <text :x="x(d.ms) + 4" :y="H - 4" class="quiet">{{ d.says }}</text>
        </g>
        <g v-for="l in strip.lines" :key="l.rh">
          <path :d="`M${L} ${y(l.rh)}H${R}`" class="limit" />
        </g>
        <path v-for="(b, i) in bands" :key="i" :d="b" class="band" />
        <path :d="path(strip.read)" class="read" />
        <path :d="path(strip.comes)" class="comes" />
        <path :d="warmth(strip.read)" class="warm" />
        <path :d="warmth(strip.comes)" class="warm comes" />
        <circle v-for="p in strip.read.filter((q) => q.bad)" :key="p.ms" :cx="x(p.ms)" :cy="T + 5" r="4" class="bad" />
        <path :d="`M${x(strip.nowMs)} ${T - 4}V${WB}`" class="now" />
        <text :x="x(strip.nowMs) - 4" :y="T - 5" text-anchor="end" class="small">now</text>
        <text v-if="strip.comes.length > 2" :x="x(strip.nowMs) + 6" :y="T - 5" class="quiet small">expected</text>
        <text :x="L - 6" :y="WB - 8" text-anchor="end" class="quiet">warmth</text>
        <g v-if="at" class="at">
          <path :d="`M${x(at.ms)} ${T}V${WB}`" />
          <circle :cx="x(at.ms)" :cy="y(at.rh)" r="5" />
          <text
            :x="x(at.ms) + (x(at.ms) > W - 140 ? -8 : 8)"
            :y="Math.max(T + 16, y(at.rh) - 10)"
            :text-anchor="x(at.ms) > W - 140 ? 'end' : 'start'"
          >
            {{ at.rh.toFixed(0) }} %, {{ at.temp }}
          </text>
        </g>
      </svg>
    </div>
    <figcaption>
      <p>{{ strip.says }} {{ strip.warm }}</p>
      <p v-if="strip.gaps" class="soon">{{ strip.gaps }}</p>
      <p class="quiet small">
        <template v-for="(l, i) in strip.lines" :key="l.rh">{{ i ? '; ' : '' }}{{ l.says }}</template
        >. The band is the lowest and the highest of each hour, the broken line what is expected.
      </p>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
.scroll {
  overflow-x: auto;
}
svg {
  display: block;
  width: 100%;
  min-width: 640px;
}
text {
  font-family: 'Figtree Variable', sans-serif;
  font-size: 13px;
  fill: var(--ink);
}
text.quiet {
  fill: var(--quiet);
}
.slow {
  fill: var(--honey-fill);
  opacity: 0.55;
}
.hair {
  stroke: var(--linen);
}
.limit {
  stroke: var(--rosehip);
  stroke-dasharray: 2 5;
}
.band {
  fill: var(--dusk);
  opacity: 0.18;
}
.read {
  fill: none;
  stroke: var(--dusk);
  stroke-width: 2.5;
}
.comes {
  fill: none;
  stroke: var(--dusk);
  stroke-width: 2;
  stroke-dasharray: 7 6;
}
.warm {
  fill: none;
  stroke: var(--honey);
  stroke-width: 2;
}
.warm.comes {
  stroke: var(--honey);
}
.bad {
  fill: var(--rosehip);
}
.now {
  stroke: var(--ink);
}
.at path {
  stroke: var(--quiet);
  stroke-dasharray: 2 3;
}
.at circle {
  fill: var(--flour);
  stroke: var(--ink);
  stroke-width: 2;
}
.at text {
  font-weight: 650;
  paint-order: stroke;
  stroke: var(--flour);
  stroke-width: 4px;
}
</style>
