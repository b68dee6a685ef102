<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref, watch } from 'vue'
import type { BenchView, Tally } from '../api/client'

// Which piece broke, and why: both large enough for a knuckle.
const props = defineProps<{ breakable: Tally[]; first?: number; reasons: BenchView['reasons'] }>()
const emit = defineEmits<{ broke: [tally: Tally, why: string] }>()
const visible = defineModel<boolean>('visible')
const which = ref<Tally>()
watch(
  visible,
  (open) => {
    if (open) which.value = props.breakable.find((t) => t.pieceId === props.first) ?? props.breakable[0]
  },
  { immediate: true },
)
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    dismissable-mask
    header="One broke: why?"
    :style="{ width: 'min(560px, 96vw)' }"
  >
    <div v-if="breakable.length > 1" class="row" role="group" aria-label="Which piece">
      <Button
        v-for="t in breakable"
        :key="t.pieceId"
        :label="t.name"
        :outlined="which?.pieceId !== t.pieceId"
        severity="secondary"
        class="tall"
        @click="which = t"
      />
    </div>
    <div class="reasons">
      <Button
        v-for="r in reasons"
        :key="r.code"
        :label="r.say"
        class="tall"
        @click="which && emit('broke', which, r.code)"
      />
    </div>
  </Dialog>
</template>
