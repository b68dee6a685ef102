<script setup lang="ts">
import type { CommissionView } from '../api/client'
import LinePanel from '../parts/LinePanel.vue'

defineProps<{ commission: CommissionView }>()
</script>

<template>
  <LinePanel :commission="commission.id" />
</template>
