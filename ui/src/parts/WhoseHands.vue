<script setup lang="ts">
import Button from 'primevue/button'
import { useQueryClient } from '@tanstack/vue-query'
import { person, setPerson } from '../api/client'

// Who is at the bench: with a name chosen it shows that one's own steps.
defineProps<{ people: string[] }>()
const client = useQueryClient()
function choose(name: string) {
  setPerson(person.value === name ? '' : name)
  void client.invalidateQueries({ queryKey: ['bench'] })
}
</script>

<template>
  <span v-if="people.length > 1" class="row people" role="group" aria-label="Who is at the bench">
    <Button
      v-for="p in people"
      :key="p"
      :label="p"
      :outlined="person !== p"
      :aria-pressed="person === p"
      severity="secondary"
      class="who"
      @click="choose(p)"
    />
  </span>
</template>

<style scoped>
.who {
  min-height: 44px;
}
</style>
