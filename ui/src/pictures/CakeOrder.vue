<script setup lang="ts">
import { computed } from 'vue'
import type { LeavingView } from '../api/client'

// One pair of hands along a rule of minutes: a solid bar while they put on, a slack cord while it takes hold.
const props = defineProps<{ atCake: LeavingView['atCake'] }>()
defineEmits<{ choose: [id: number] }>()
const end = computed(() => Math.max(1, ...props.atCake.rows.map((r) => r.settled)))
const x = (m: number) => (m / end.value) * 100
</script>

<template>
  <section v-if="!atCake.empty" class="flour order" aria-label="The order at the cake">
    <h2>The order at the cake</h2>
    <p>{{ atCake.says }} {{ atCake.idle }}</p>
    <p v-if="atCake.late.length" class="danger">Past their window: {{ atCake.late.join(', ') }}.</p>
    <ol>
      <li v-for="(r, i) in atCake.rows" :key="r.piece">
        <button type="button" class="name" @click="$emit('choose', r.piece)">{{ i + 1 }}. {{ r.says }}</button>
        <span class="quiet small with">{{ r.with }}</span>
        <svg viewBox="0 0 100 12" preserveAspectRatio="none" aria-hidden="true">
          <rect
            :x="x(r.from)"
            y="2"
            :width="Math.max(0.8, x(r.until) - x(r.from))"
            height="8"
            :fill="r.swatch"
            stroke="var(--ink)"
            stroke-width=".4"
            vector-effect="non-scaling-stroke"
          />
          <path
            :d="`M${x(r.until)} 6Q${(x(r.until) + x(r.settled)) / 2} 13 ${x(r.settled)} 6`"
            fill="none"
            stroke="var(--moss)"
            stroke-width="2"
            vector-effect="non-scaling-stroke"
          />
        </svg>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.order {
  padding: 14px 22px;
  margin-bottom: 16px;
}
ol {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
li {
  display: grid;
  grid-template-columns: minmax(160px, 2fr) minmax(90px, 1fr) 3fr;
  gap: 10px;
  align-items: center;
}
.name {
  min-height: 40px;
  border: 0;
  background: none;
  text-align: left;
  color: var(--ink);
  font: inherit;
  font-weight: 600;
  padding: 0;
}
svg {
  width: 100%;
  height: 22px;
}
@media (max-width: 720px) {
  li {
    grid-template-columns: 1fr auto;
  }
  svg {
    grid-column: 1 / -1;
  }
}
</style>
