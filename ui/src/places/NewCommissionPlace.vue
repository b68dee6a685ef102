<script setup lang="ts">
import { useRouter } from 'vue-router'
import { useStudio } from '../api/queries'
import CanTake from '../parts/CanTake.vue'
import NewRow from '../parts/NewRow.vue'

const studio = useStudio()
const router = useRouter()
</script>

<template>
  <div class="stack">
    <h1>Take an order</h1>
    <p class="quiet">
      Everything can be corrected later. Dates are understood as you say them: Sat week 10:00, 5 Dec 10am, in 9 days.
    </p>
    <NewRow
      kind="commissions"
      label="Write it down"
      @made="(id) => router.push(`/s/${studio}/commissions/${id}/pieces`)"
      @leave="router.push(`/s/${studio}/commissions`)"
    />
    <CanTake />
  </div>
</template>
