<script setup lang="ts">
import { computed } from 'vue'
import type { FinishStage } from '../api/client'

// A leaf in the colours that its tones come to: ground, base, depths, edges, tips, heights, specks. The colours are
// computed on the server; this only says where they lie.
const props = defineProps<{ finish: FinishStage; name: string }>()
const of = (...roles: string[]) => props.finish.tones.filter((t) => roles.includes(t.role) && !t.missing)
const base = computed(() => of('base').at(-1)?.look ?? props.finish.ground)
const leaf = 'M100 186C40 150 22 96 44 52 60 26 84 16 100 10c16 6 40 16 56 42 22 44 4 98-56 134Z'
const veins = [0.2, 0.36, 0.52, 0.68].map((t) => {
  const y = 170 - t * 150
  const w = 46 - Math.abs(t - 0.45) * 50
  return `M100 ${y}Q${100 - w * 0.6} ${y - 6} ${100 - w} ${y - 22}M100 ${y}Q${100 + w * 0.6} ${y - 6} ${100 + w} ${y - 22}`
})
const specks = [
  [70, 70],
  [124, 60],
  [88, 110],
  [116, 120],
  [80, 140],
  [130, 92],
]
const says = computed(() => props.finish.tones.map((t) => `${t.mix} ${t.says}, ${t.sheen}`).join('; '))
</script>

<template>
  <svg viewBox="0 0 200 200" class="tones" role="img" :aria-label="`${name}: ${says || 'as the paste is'}`">
    <defs>
      <clipPath id="leafclip"><path :d="leaf" /></clipPath>
    </defs>
    <path :d="leaf" :fill="finish.ground" />
    <g clip-path="url(#leafclip)">
      <path :d="leaf" :fill="base" />
      <path
        v-for="t in of('depth', 'underside')"
        :key="'d' + t.at"
        d="M100 190C84 150 84 60 100 14c16 46 16 136 0 176Z"
        :fill="t.look"
        opacity=".92"
      />
      <path v-for="t in of('edge')" :key="'e' + t.at" :d="leaf" fill="none" :stroke="t.look" stroke-width="20" />
      <path v-for="t in of('tip')" :key="'t' + t.at" d="M60 54Q100 30 140 54L100 0Z" :fill="t.look" />
      <g v-for="t in of('high')" :key="'h' + t.at" :fill="t.flash || t.look">
        <ellipse cx="68" cy="96" rx="13" ry="34" transform="rotate(-18 68 96)" />
        <ellipse cx="132" cy="96" rx="13" ry="34" transform="rotate(18 132 96)" />
      </g>
      <g v-for="t in of('vein')" :key="'v' + t.at" fill="none" :stroke="t.look" stroke-width="3">
        <path d="M100 186V14" />
        <path v-for="v in veins" :key="v" :d="v" />
      </g>
      <g v-for="t in of('speck')" :key="'s' + t.at" :fill="t.look">
        <circle v-for="p in specks" :key="p[0] + '-' + p[1]" :cx="p[0]" :cy="p[1]" r="5" />
      </g>
    </g>
    <path :d="leaf" fill="none" class="rim" />
  </svg>
</template>

<style scoped>
.tones {
  width: 190px;
  max-width: 100%;
  flex: none;
}
.rim {
  stroke: var(--linen);
  stroke-width: 1.5;
}
</style>
