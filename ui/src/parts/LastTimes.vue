<script setup lang="ts">
import type { PieceView } from '../api/client'
import { useStudio } from '../api/queries'

// What happened the last three times such pieces were made, a line each.
defineProps<{ last: PieceView['last'] }>()
const studio = useStudio()
</script>

<template>
  <section v-if="last.length" class="last" aria-label="Last time">
    <p v-for="t in last" :key="t.when + t.says" class="small">
      <RouterLink v-if="t.orderId" :to="`/s/${studio}/commissions/${t.orderId}/dry`">{{ t.when }}</RouterLink>
      <b v-else>{{ t.when }}</b>: {{ t.says }}
    </p>
  </section>
</template>

<style scoped>
.last {
  margin: 6px 0 10px;
  padding-left: 10px;
  border-left: 3px solid var(--sage);
}
.last p {
  margin: 2px 0;
}
</style>
