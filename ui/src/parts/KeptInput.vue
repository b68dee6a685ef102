<script setup lang="ts">
import { ref, watch } from 'vue'

// A field that is sent when it is left. What is being typed stays while the page around it is
// read anew, and stays beside its refusal; a new value takes its place once nobody types.
const props = defineProps<{ value: string | number }>()
const emit = defineEmits<{ change: [typed: string] }>()
const draft = ref<string>()
const here = ref(false)
watch(
  () => props.value,
  () => {
    if (!here.value) draft.value = undefined
  },
)
</script>

<template>
  <input
    :value="draft ?? value"
    @focus="here = true"
    @blur="here = false"
    @input="(e) => (draft = (e.target as HTMLInputElement).value)"
    @change="(e) => emit('change', (e.target as HTMLInputElement).value)"
  />
</template>
