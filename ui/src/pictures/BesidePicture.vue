<script setup lang="ts">
import { computed } from 'vue'
import type { PieceView } from '../api/client'

// A piece and what goes on to it, side by side and drawn to one scale, each with what is to be made of it.
const props = defineProps<{ beside: PieceView['beside']; at: number }>()
defineEmits<{ choose: [id: number] }>()
const WIDEST = 170
const scale = computed(() => Math.min(2.4, WIDEST / Math.max(1, ...props.beside.map((b) => b.lengthMM))))
</script>

<template>
  <section class="beside" aria-label="Side by side">
    <h3>Side by side</h3>
    <div class="row">
      <button
        v-for="b in beside"
        :key="b.id"
        type="button"
        class="part"
        :aria-current="b.id === at || undefined"
        @click="$emit('choose', b.id)"
      >
        <svg
          v-if="b.lengthMM"
          :width="b.lengthMM * scale + 2"
          :height="b.widthMM * scale + 2"
          :viewBox="`-1 -1 ${b.lengthMM * scale + 2} ${b.widthMM * scale + 2}`"
          aria-hidden="true"
        >
          <rect
            :width="b.lengthMM * scale"
            :height="b.widthMM * scale"
            :rx="b.widthMM * scale * b.round"
            :fill="b.swatch"
          />
        </svg>
        <b>{{ b.name }}</b>
        <span v-if="b.on" class="quiet">{{ b.on }}</span>
        <span v-if="b.missing" class="soon">{{ b.missing }}</span>
        <template v-else-if="b.balls && b.ball">
          <span>{{ b.balls.text }} of {{ b.ball.text }}</span>
          <span class="quiet">{{ b.spares }}</span>
          <span v-if="b.bench" class="quiet">{{ b.bench.text }} at the bench</span>
        </template>
        <span v-if="b.made">{{ b.made }}</span>
      </button>
    </div>
  </section>
</template>

<style scoped>
.beside {
  margin: 16px 0;
}
.row {
  align-items: stretch;
}
.part {
  display: grid;
  align-content: end;
  justify-items: start;
  gap: 2px;
  min-width: 150px;
  max-width: 230px;
  padding: 12px 14px;
  font: inherit;
  font-size: 14px;
  text-align: left;
  color: inherit;
  background: none;
  border: 1px solid var(--linen);
  border-radius: 10px;
  cursor: pointer;
}
.part[aria-current] {
  border-color: var(--fern);
  background: var(--sage-light);
}
svg {
  margin-bottom: 8px;
  stroke: var(--ink);
  stroke-width: 1;
}
</style>
