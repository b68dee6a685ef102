<script setup lang="ts">
import { computed } from 'vue'
import { useKitchen, useStudio } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import RowForm from '../parts/RowForm.vue'

const kitchen = useKitchen()
const studio = useStudio()
const k = computed(() => kitchen.data.value)
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Kitchen</h1>
      <span v-if="k" class="quiet">{{ k.nowSays }}</span>
      <RouterLink :to="`/s/${studio}/journal`" class="right">Journal</RouterLink>
    </header>
    <p class="quiet">
      Every number in Dusty Fern comes from here, from the drawer and the pantry, or from the order itself.
    </p>
    <LoadState :error="kitchen.error.value" :loading="kitchen.isPending.value" @again="kitchen.refetch()" />
    <RowForm v-if="k" :id="k.row.id" kind="kitchen" :version="k.row.version" :fields="k.row.fields" />
  </div>
</template>

<style scoped>
.right {
  margin-left: auto;
}
</style>
