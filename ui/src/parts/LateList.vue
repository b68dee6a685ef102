<script setup lang="ts">
import { computed } from 'vue'

// What can no longer be in time. The first few stand open: a long list must not push the step out of sight.
const props = defineProps<{ late: string[] }>()
const OPEN = 2
const first = computed(() => props.late.slice(0, props.late.length === OPEN + 1 ? OPEN + 1 : OPEN))
const more = computed(() => props.late.slice(first.value.length))
</script>

<template>
  <div v-if="late.length" class="lates" role="alert">
    <p v-for="l in first" :key="l" class="danger">
      <b>{{ l }}</b>
    </p>
    <details v-if="more.length">
      <summary class="danger">{{ more.length }} more orders are late</summary>
      <p v-for="l in more" :key="l" class="danger">{{ l }}</p>
    </details>
  </div>
</template>

<style scoped>
.lates {
  display: grid;
  gap: 4px;
}
p {
  margin: 0;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
details p {
  padding: 3px 0;
}
</style>
