<script setup lang="ts">
import Button from 'primevue/button'
import type { LineStep } from '../api/client'

// A step that could be done earlier than it is planned.
defineProps<{ step: LineStep; takes?: boolean }>()
defineEmits<{ take: [step: LineStep] }>()
</script>

<template>
  <div class="offer">
    <p>
      <b>{{ step.title }}</b>{{ ' ' }}
      <span class="quiet">
        {{ step.commission }}<template v-if="step.for">, {{ step.for }}</template
        >, planned for {{ step.startSays
        }}<template v-if="takes">; binds hands for {{ step.lengthSays }}</template> </span
      >{{ ' ' }}
      <span v-if="step.guests" class="guests">{{ step.guests }}</span>
    </p>
    <Button
      label="Take it now"
      severity="secondary"
      outlined
      :aria-label="`Take it now: ${step.title}`"
      @click="$emit('take', step)"
    />
  </div>
</template>

<style scoped>
.offer {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  border-top: 1px solid var(--linen);
  padding: 8px 0;
}
.offer p {
  margin: 0;
}
.offer :deep(button) {
  flex: none;
  min-height: 44px;
}
</style>
