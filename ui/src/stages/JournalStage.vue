<script setup lang="ts">
import type { CommissionView } from '../api/client'
import JournalPanel from '../parts/JournalPanel.vue'

defineProps<{ commission: CommissionView }>()
</script>

<template>
  <section class="stack">
    <h2>What has happened</h2>
    <JournalPanel :commission="commission.id" />
  </section>
</template>
