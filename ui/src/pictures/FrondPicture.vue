<script setup lang="ts">
import { computed } from 'vue'
import type { Leaf } from '../api/client'

const props = withDefaults(defineProps<{ leaves: Leaf[]; size?: number; label?: string }>(), { size: 44, label: '' })

// One leaflet a piece, in pairs from the base: curled while not begun, open as
// it is made, filling as it dries, whole when firm, outlined dark on the cake.
const drawn = computed(() => {
  const n = props.leaves.length
  const pairs = Math.max(1, Math.ceil(n / 2))
  const h = 38
  return props.leaves.map((l, i) => {
    const k = Math.floor(i / 2)
    const side = i % 2 ? 1 : -1
    const t = (k + 0.7) / (pairs + 0.6)
    const y = 42 - h * t
    const len = h * (0.46 - 0.3 * t)
    const a = ((28 + 34 * t) * Math.PI) / 180
    const dx = side * Math.cos(a)
    const dy = -Math.sin(a)
    const b = len * 0.26
    const ex = 22 + dx * len
    const ey = y + dy * len
    const leaf =
      `M22 ${y}Q${22 + dx * len * 0.45 - dy * b} ${y + dy * len * 0.45 + dx * b} ${ex} ${ey}` +
      `Q${22 + dx * len * 0.45 + dy * b} ${y + dy * len * 0.45 - dx * b} 22 ${y}Z`
    const r = len * 0.2
    const curl = `M22 ${y}q${side * r * 1.2} ${-r * 1.4} ${side * r * 1.6} ${-r * 0.2}t${-side * r * 0.9} ${r * 0.1}`
    const fill = { curled: 0, open: 0, drying: 0.25 + 0.6 * l.share, firm: 1, placed: 1 }[l.state]
    return { ...l, leaf, curl, fill }
  })
})
const says = computed(
  () =>
    props.label || (props.leaves.length ? props.leaves.map((l) => `${l.name}: ${l.says}`).join('; ') : 'no pieces yet'),
)
</script>

<template>
  <svg viewBox="0 0 44 44" :width="size" :height="size" role="img" :aria-label="says" class="frond">
    <path d="M22 42C23 27 20 15 23 4" class="stem" />
    <template v-for="(l, i) in drawn" :key="i">
      <path v-if="l.state === 'curled'" :d="l.curl" class="stem thin" />
      <path v-else :d="l.leaf" :fill="l.swatch" :fill-opacity="l.fill" class="leaf" :class="l.state" />
    </template>
  </svg>
</template>

<style scoped>
.frond {
  flex: none;
  display: block;
}
.stem {
  fill: none;
  stroke: var(--fern);
  stroke-width: 1.4;
  stroke-linecap: round;
}
.thin {
  stroke-width: 1.1;
}
.leaf {
  stroke: var(--fern);
  stroke-width: 1;
  stroke-linejoin: round;
}
.leaf.placed {
  stroke: var(--ink);
  stroke-width: 1.4;
}
</style>
