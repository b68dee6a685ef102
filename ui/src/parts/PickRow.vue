<script setup lang="ts" generic="T extends string | number">
// A few that exclude one another, side by side.
defineProps<{ label: string; options: readonly { value: T; says: string }[] }>()
const chosen = defineModel<T>({ required: true })
</script>

<template>
  <span class="pick" role="group" :aria-label="label">
    <button
      v-for="o in options"
      :key="o.value"
      type="button"
      :aria-pressed="chosen === o.value"
      @click="chosen = o.value"
    >
      {{ o.says }}
    </button>
  </span>
</template>

<style scoped>
.pick {
  display: inline-flex;
  border: 1px solid var(--linen);
  border-radius: 6px;
  overflow: hidden;
}
button {
  min-height: 44px;
  padding: 6px 11px;
  border: 0;
  background: var(--flour);
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
button[aria-pressed='true'] {
  background: var(--sage);
  font-weight: 650;
}
</style>
