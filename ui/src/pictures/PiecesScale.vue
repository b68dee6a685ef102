<script setup lang="ts">
import { computed } from 'vue'
import type { CommissionView } from '../api/client'

// The pieces of an order to one scale, beside what they go on: size and number are seen at once.
const props = defineProps<{ commission: CommissionView; chosen?: number }>()
const emit = defineEmits<{ choose: [id: number] }>()
const GAP = 8
const MOST = 12
const drawn = computed(() => props.commission.pieces.filter((p) => p.acrossMM > 0 && p.highMM > 0))
const cake = computed(() => props.commission.cake)
const tiers = computed(() => {
  let y = 0
  return (cake.value?.tiers ?? []).map((t) => {
    const h = t.heightMM || 100
    y += h
    return { ...t, h, top: y }
  })
})
const wide = computed(() => Math.max(cake.value?.acrossMM ?? 0, ...tiers.value.map((t) => t.acrossMM), 1))
const tall = computed(() =>
  Math.max(...tiers.value.map((t) => t.top), cake.value && !tiers.value.length ? wide.value : 1),
)
/** Rows of one kind each: the piece lying, as often as it is needed, a dozen at most. */
const rows = computed(() => {
  let y = 0
  return drawn.value.map((p) => {
    const [w, h] = [Math.max(p.acrossMM, p.highMM), Math.min(p.acrossMM, p.highMM)]
    const lies = w > 3 * h
    const [a, b] = lies ? [w, h] : [p.acrossMM, p.highMM]
    const n = Math.min(Math.max(p.needed, 1), lies ? 3 : MOST)
    const row = { p, a, b, n, y, more: p.needed > n ? `+ ${p.needed - n}` : '' }
    y += Math.max(b, 14) + GAP
    return row
  })
})
const rowsWide = computed(() => Math.max(1, ...rows.value.map((r) => r.n * (r.a + GAP) + 60)))
const rowsTall = computed(() => rows.value.reduce((s, r) => s + Math.max(r.b, 14) + GAP, 0))
const gapTo = computed(() => (cake.value ? 40 : 0))
const all = computed(() => ({
  w: (cake.value ? wide.value + gapTo.value : 0) + rowsWide.value,
  h: Math.max(rowsTall.value, cake.value ? tall.value : 0) + 24,
}))
const left = computed(() => (cake.value ? wide.value + gapTo.value : 0))
</script>

<template>
  <figure v-if="drawn.length" class="flour scale">
    <svg :viewBox="`-2 -2 ${all.w + 4} ${all.h + 4}`" role="img" aria-label="The pieces to one scale">
      <g v-if="cake" class="cake">
        <rect
          v-for="(t, i) in tiers"
          :key="i"
          :x="wide / 2 - t.acrossMM / 2"
          :y="tall - t.top"
          :width="t.acrossMM"
          :height="t.h"
          :rx="t.shape === 'square' ? 1 : 6"
        />
        <circle v-if="!tiers.length" :cx="wide / 2" :cy="wide / 2" :r="wide / 2" />
      </g>
      <g
        v-for="r in rows"
        :key="r.p.id"
        :transform="`translate(${left} ${r.y})`"
        class="kind"
        :class="{ on: r.p.id === chosen }"
        @click="emit('choose', r.p.id)"
      >
        <rect
          v-for="i in r.n"
          :key="i"
          :x="(i - 1) * (r.a + GAP)"
          y="0"
          :width="r.a"
          :height="r.b"
          :rx="Math.min(r.a, r.b) * 0.3"
          :fill="r.p.swatch"
        />
        <text v-if="r.more" :x="r.n * (r.a + GAP)" :y="Math.max(r.b, 12) / 2 + 5">{{ r.more }}</text>
      </g>
      <g :transform="`translate(${left} ${all.h - 12})`" class="rule">
        <path d="M0 -5V5M0 0H50M50 -5V5" />
        <text x="58" y="4">50 mm</text>
      </g>
    </svg>
  </figure>
</template>

<style scoped>
.scale {
  margin: 0;
  padding: 14px 18px;
}
svg {
  display: block;
  width: 100%;
  max-height: 300px;
}
.cake {
  fill: var(--sage-light);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.kind {
  cursor: pointer;
  stroke: var(--ink);
  stroke-width: 1;
}
.kind.on {
  stroke: var(--fern);
  stroke-width: 2.6;
}
svg * {
  vector-effect: non-scaling-stroke;
}
text {
  stroke: none;
  fill: var(--quiet);
  font-size: 13px;
}
.rule path {
  stroke: var(--quiet);
  stroke-width: 1.4;
  fill: none;
}
</style>
