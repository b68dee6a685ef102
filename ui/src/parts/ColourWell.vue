<script setup lang="ts">
// A picker beside a swatch that can be typed; what is no swatch yet shows white paste.
defineProps<{ hex: string; label: string }>()
defineEmits<{ pick: [hex: string] }>()
</script>

<template>
  <input
    type="color"
    :value="/^#[0-9a-f]{6}$/i.test(hex) ? hex.toLowerCase() : '#f7f2e6'"
    :aria-label="`${label}, picked`"
    @change="(e) => $emit('pick', (e.target as HTMLInputElement).value.toUpperCase())"
  />
</template>

<style scoped>
input {
  width: 48px;
  height: 44px;
  padding: 3px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--flour);
  flex: none;
}
</style>
