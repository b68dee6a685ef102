<script setup lang="ts">
import { computed } from 'vue'
import type { Leaf } from '../api/client'

const props = withDefaults(defineProps<{ leaves: Leaf[]; size?: number; label?: string; lying?: boolean }>(), {
  size: 44,
  label: '',
})

// One leaflet a piece, in pairs from the base: curled while not begun, open as
// it is made, filling as it dries, whole when firm, outlined dark on the cake.
const drawn = computed(() => {
  if (props.lying) return props.leaves.map(lie)
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
// along a row: the stem from left to right, a pair above and below
const LONG = 132
function lie(l: Leaf, i: number) {
  const pairs = Math.max(4, Math.ceil(props.leaves.length / 2))
  const step = (LONG - 22) / pairs
  const x = 10 + step * (Math.floor(i / 2) + 0.4)
  const side = i % 2 ? 1 : -1
  const len = Math.min(19, step * 1.15)
  const ex = x + len * 0.62
  const ey = 22 + side * len * 0.86
  const b = len * 0.3
  const leaf =
    `M${x} 22Q${x + len * 0.1 - b * 0.6} ${22 + side * (len * 0.5)} ${ex} ${ey}` +
    `Q${x + len * 0.62 + b * 0.7} ${22 + side * len * 0.36} ${x} 22Z`
  const r = Math.min(4, len * 0.24)
  const curl = `M${x} 22q${r * 0.4} ${side * r * 2} ${r * 1.6} ${side * r * 1.6}t${-r * 0.2} ${-side * r * 0.9}`
  const fill = { curled: 0, open: 0, drying: 0.25 + 0.6 * l.share, firm: 1, placed: 1 }[l.state]
  return { ...l, leaf, curl, fill }
}
const says = computed(
  () =>
    props.label || (props.leaves.length ? props.leaves.map((l) => `${l.name}: ${l.says}`).join('; ') : 'no pieces yet'),
)
</script>

<template>
  <svg
    :viewBox="lying ? '0 0 132 44' : '0 0 44 44'"
    :width="lying ? size * 3 : size"
    :height="size"
    role="img"
    :aria-label="says"
    class="frond"
  >
    <path :d="lying ? 'M4 24C40 19 90 25 128 21' : 'M22 42C23 27 20 15 23 4'" class="stem" />
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
