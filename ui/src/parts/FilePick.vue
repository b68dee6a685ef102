<script setup lang="ts">
import { ref } from 'vue'

// The browser's own file box speaks its own language; this one says what is wanted.
const props = defineProps<{ label: string; accept: string; hint: string }>()
const emit = defineEmits<{ file: [file: File] }>()
const name = ref('')
function choose(e: Event) {
  const box = e.target as HTMLInputElement
  const file = box.files?.[0]
  if (!file) return
  name.value = file.name
  emit('file', file)
  box.value = '' // the same file may be chosen again once it is mended
}
</script>

<template>
  <label class="file">
    <span class="press">{{ props.label }}</span>
    <input type="file" :accept="accept" @change="choose" />
    <span class="small quiet">{{ name || hint }}</span>
  </label>
</template>

<style scoped>
.file {
  position: relative;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  cursor: pointer;
}
.press {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
  padding: 0 14px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  font-size: 15px;
  font-weight: 550;
}
input {
  position: absolute;
  inset: 0;
  width: 100%;
  opacity: 0;
  cursor: pointer;
}
.file:has(:focus-visible) .press {
  outline: 3px solid var(--fern);
  outline-offset: 2px;
}
</style>
