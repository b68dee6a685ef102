<script setup lang="ts">
import { computed } from 'vue'

// A wait as a cord between two nails: slack while there is time, taut at the end.
const props = defineProps<{ share: number; kind: string; ringing?: boolean }>()
const sag = computed(() => 6 + 46 * (1 - Math.min(1, Math.max(0, props.share))))
</script>

<template>
  <svg
    viewBox="0 0 200 40"
    class="cord"
    :class="[kind, { taut: ringing }]"
    preserveAspectRatio="none"
    width="100%"
    height="40"
    aria-hidden="true"
  >
    <path :d="`M6 7Q100 ${sag} 194 7`" />
    <circle cx="6" cy="7" r="4" />
    <circle cx="194" cy="7" r="4" />
  </svg>
</template>

<style scoped>
.cord {
  display: block;
  fill: var(--honey);
  stroke: var(--honey);
}
.cord path {
  fill: none;
  stroke-width: 2.4;
  vector-effect: non-scaling-stroke;
}
.cord.freezer {
  fill: var(--dusk);
  stroke: var(--dusk);
}
.cord.taut {
  fill: var(--rosehip);
  stroke: var(--rosehip);
}
</style>
