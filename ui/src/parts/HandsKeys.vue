<script setup lang="ts">
import Button from 'primevue/button'
import type { BenchView } from '../api/client'

// what else hands can say, each with its key
defineProps<{ bench: BenchView; ways: { rescue: boolean; broke: boolean; scale: boolean; heat: boolean } }>()
const emit = defineEmits<{ timer: []; rescue: []; broke: []; scale: []; heat: []; back: [] }>()
</script>

<template>
  <div class="row">
    <Button label="Timer" severity="secondary" outlined class="tall" @click="emit('timer')" /> <kbd>T</kbd>
    <template v-if="ways.rescue">
      <Button label="It went wrong" severity="secondary" outlined class="tall" @click="emit('rescue')" /> <kbd>R</kbd>
    </template>
    <template v-if="ways.broke">
      <Button label="One broke" severity="secondary" outlined class="tall" @click="emit('broke')" /> <kbd>X</kbd>
    </template>
    <template v-if="ways.scale">
      <Button label="Scale" severity="secondary" outlined class="tall" @click="emit('scale')" /> <kbd>W</kbd>
    </template>
    <template v-if="ways.heat">
      <Button label="Thermometer" severity="secondary" outlined class="tall" @click="emit('heat')" /> <kbd>H</kbd>
    </template>
    <template v-if="bench.lastSays">
      <Button
        label="Take back"
        severity="secondary"
        outlined
        class="tall"
        :title="bench.lastSays"
        @click="emit('back')"
      />
      <kbd>Backspace</kbd>
    </template>
  </div>
  <p v-if="bench.lastSays" class="quiet small">Last: {{ bench.lastWho }} {{ bench.lastSays }}</p>
</template>
