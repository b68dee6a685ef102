<script setup lang="ts">
import Button from 'primevue/button'
import type { Tally } from '../api/client'

// How many are whole, and the presses that put it right.
defineProps<{ tally: Tally; kept: string }>()
defineEmits<{ count: [by: number]; broke: []; enough: [] }>()
</script>

<template>
  <section class="flour tally" aria-label="Count">
    <p>
      <span class="big">{{ tally.made - tally.broken }}</span> whole of {{ tally.wanted }} wanted<template
        v-if="tally.broken"
        >, {{ tally.broken }} broken</template
      >
    </p>
    <p :class="tally.short ? 'danger' : 'quiet'">{{ tally.says }}</p>
    <p v-if="kept" class="soon" role="status">Kept here: {{ kept }}</p>
    <div class="row">
      <Button
        label="−"
        aria-label="One fewer"
        severity="secondary"
        outlined
        class="tall square"
        @click="$emit('count', -1)"
      />
      <Button
        label="+"
        aria-label="One more"
        severity="secondary"
        outlined
        class="tall square"
        @click="$emit('count', 1)"
      />
      <Button v-if="tally.enough" label="Enough: stop here" class="tall" @click="$emit('enough')" />
      <Button label="One broke" severity="secondary" outlined class="tall" @click="$emit('broke')" /> <kbd>X</kbd>
    </div>
  </section>
</template>

<style scoped>
.tally {
  padding: 12px 18px;
}
.tally p {
  margin: 2px 0 6px;
}
.big {
  font-size: 40px;
}
.square {
  min-width: 64px;
  font-size: 24px;
}
</style>
