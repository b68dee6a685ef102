<script setup lang="ts">
import type { Caution } from '../api/client'

defineProps<{ cautions: Caution[] }>()
</script>

<template>
  <ul v-if="cautions.length" class="cautions" aria-label="Cautions">
    <li v-for="c in cautions" :key="c.code" :class="{ hard: c.hard }">{{ c.say }}</li>
  </ul>
</template>

<style scoped>
.cautions {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 6px;
}
li {
  padding: 8px 12px;
  border-left: 3px solid var(--honey);
  background: var(--honey-fill);
  border-radius: 0 6px 6px 0;
  font-size: 14px;
}
li.hard {
  border-left-color: var(--rosehip);
  font-weight: 550;
}
</style>
