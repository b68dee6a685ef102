<script setup lang="ts">
import type { BenchView } from '../api/client'

// What to look for at a step: ticked when it is so, and where it is not the way to Rescue.
defineProps<{ step: NonNullable<BenchView['now']> }>()
const emit = defineEmits<{ looked: [check: string, well?: boolean]; failed: [check: string] }>()
function tick(check: string, e: Event) {
  const box = e.target as HTMLInputElement
  box.blur() // the space bar is for the step
  emit('looked', check, box.checked || undefined)
}
</script>

<template>
  <div class="checks" role="group" aria-label="Look for">
    <span class="quiet">Look for:</span>
    <span v-for="c in step.checks" :key="c" class="check" :class="{ bad: step.looked?.[c] === false }">
      <label><input type="checkbox" :checked="step.looked?.[c] === true" @change="(e) => tick(c, e)" /> {{ c }}</label>
      <button v-if="step.pieceId" type="button" class="link" :aria-label="`Not so: ${c}`" @click="$emit('failed', c)">
        not so
      </button>
    </span>
  </div>
</template>

<style scoped>
.checks {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  align-items: center;
}
.check {
  display: inline-flex;
  align-items: center;
  gap: 8px;
}
.check label {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
}
.check input {
  width: 22px;
  height: 22px;
  accent-color: var(--fern);
}
.bad label {
  color: var(--rosehip);
  font-weight: 600;
}
.link {
  min-height: 44px;
}
</style>
