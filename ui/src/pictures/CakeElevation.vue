<script setup lang="ts">
import { computed } from 'vue'
import type { CommissionView } from '../api/client'
import WhyNumber from '../parts/WhyNumber.vue'

// What the pieces go on, in elevation and to scale: tiers from below with the way round each, or one cake or biscuit of
// many. A height that nobody has said is drawn dashed.
const props = defineProps<{ cake: NonNullable<CommissionView['cake']> }>()
const UNSAID = 100
const tiers = computed(() => {
  let y = 0
  return props.cake.tiers.map((t) => {
    const h = t.heightMM || UNSAID
    y += h
    return { ...t, h, top: y }
  })
})
const wide = computed(() => Math.max(props.cake.acrossMM, ...tiers.value.map((t) => t.acrossMM)))
const tall = computed(() =>
  tiers.value.length ? Math.max(...tiers.value.map((t) => t.top)) : props.cake.flat ? wide.value : wide.value * 0.8,
)
const scale = computed(() => Math.min(1.6, 260 / wide.value, 300 / tall.value))
</script>

<template>
  <figure class="cake">
    <svg
      :viewBox="`${-wide / 2 - 4} ${-tall - 4} ${wide + 8} ${tall + 8}`"
      :width="(wide + 8) * scale"
      :height="(tall + 8) * scale"
      aria-hidden="true"
    >
      <template v-if="tiers.length">
        <rect
          v-for="(t, i) in tiers"
          :key="i"
          :x="-t.acrossMM / 2"
          :y="-t.top"
          :width="t.acrossMM"
          :height="t.h"
          :rx="t.shape === 'square' ? 1 : 6"
          :class="{ unsaid: !t.heightMM }"
        />
      </template>
      <circle v-else-if="cake.flat" cx="0" :cy="-tall / 2" :r="wide / 2" />
      <path
        v-else-if="cake.domed"
        :d="`M${-wide * 0.38} 0L${-wide / 2} ${-tall * 0.55}A${wide / 2} ${tall * 0.45} 0 0 1 ${wide / 2} ${-tall * 0.55}L${wide * 0.38} 0Z`"
      />
      <rect v-else :x="-wide / 2" :y="-tall" :width="wide" :height="tall" rx="4" />
    </svg>
    <figcaption>
      <p v-if="cake.says">{{ cake.says }}</p>
      <ol v-else reversed>
        <li v-for="(t, i) in [...tiers].reverse()" :key="i">
          <span>{{ t.says }}</span>
          <span v-if="t.girth" class="quiet small"
            ><b>{{ t.girth.text }}</b> {{ t.girth.unit }}
            <WhyNumber :why="t.girth.why" :of="`${t.girth.text}, ${t.girth.unit}`"
          /></span>
          <span v-if="!t.heightMM" class="soon small">How tall is it?</span>
        </li>
      </ol>
    </figcaption>
  </figure>
</template>

<style scoped>
.cake {
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 18px 28px;
  align-items: flex-end;
}
svg {
  display: block;
  fill: var(--sage-light);
  stroke: var(--ink);
  stroke-width: 1.6;
}
svg * {
  vector-effect: non-scaling-stroke;
}
.unsaid {
  stroke-dasharray: 5 4;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 10px;
}
li {
  display: grid;
}
b {
  color: var(--ink);
  font-variant-numeric: tabular-nums;
}
</style>
