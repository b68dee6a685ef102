<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { Refused } from '../api/client'

const props = defineProps<{ error: Error | null; loading: boolean }>()
defineEmits<{ again: [] }>()
const missing = computed(() => props.error instanceof Refused && props.error.problem.status === 404)
</script>

<template>
  <div v-if="error" class="flour state" role="alert">
    <h1>{{ missing ? 'There is nothing here' : 'No answer' }}</h1>
    <p>{{ error.message }}</p>
    <div class="row">
      <Button v-if="!missing" label="Try once more" @click="$emit('again')" />
      <RouterLink to="/">To the studios</RouterLink>
    </div>
  </div>
  <p v-else-if="loading" class="quiet" role="status">One moment.</p>
</template>

<style scoped>
.state {
  padding: 24px;
  max-width: 560px;
}
</style>
