<script setup lang="ts">
import Button from 'primevue/button'
import type { BenchView } from '../api/client'
import { useCopyBroke } from '../api/hands'

const props = defineProps<{ tool: NonNullable<BenchView['tool']> }>()
const emit = defineEmits<{ told: [words: string]; fault: [words: string] }>()
const copy = useCopyBroke()
async function torn() {
  try {
    await copy.mutateAsync(props.tool.id)
    emit('told', 'A copy broke: the line is hung anew with those that are left.')
  } catch (err) {
    emit('fault', err instanceof Error ? err.message : 'It was not marked.')
  }
}
</script>

<template>
  <p class="row">
    <span
      >{{ tool.name }}: <span class="quiet">{{ tool.says }}</span></span
    >
    <Button label="A copy tore" severity="secondary" outlined class="tall" :disabled="!tool.copies" @click="torn" />
  </p>
</template>
