<script setup lang="ts">
import type { CommissionView } from '../api/client'

defineProps<{ commission: CommissionView; chosen?: number }>()
defineEmits<{ choose: [id: number] }>()
</script>

<template>
  <div class="pieces" role="group" aria-label="Pieces">
    <button
      v-for="p in commission.pieces"
      :key="p.id"
      type="button"
      class="piece"
      :class="{ on: p.id === chosen, part: p.part }"
      :aria-pressed="p.id === chosen"
      @click="$emit('choose', p.id)"
    >
      <span class="pat" :style="{ background: p.swatch }" aria-hidden="true"></span>
      <span class="name">{{ p.name }}</span>
      <span class="n">{{ p.needed }}</span>
    </button>
  </div>
</template>

<style scoped>
.pieces {
  display: grid;
  gap: 4px;
  align-content: start;
}
.piece {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 46px;
  padding: 6px 12px;
  font: inherit;
  color: var(--ink);
  text-align: left;
  background: none;
  border: 1px solid transparent;
  border-radius: 10px;
  cursor: pointer;
}
.piece.on {
  background: var(--sage-light);
  border-color: var(--fern);
  font-weight: 650;
}
.piece.part {
  padding-left: 34px;
}
.name {
  flex: 1;
  min-width: 0;
}
.n {
  color: var(--quiet);
  font-weight: 400;
}
.piece.on .n {
  color: var(--ink);
}
@media (max-width: 900px) {
  .pieces {
    display: flex;
    overflow-x: auto;
    padding: 4px;
  }
  .piece {
    flex: none;
  }
}
</style>
