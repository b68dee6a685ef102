<script setup lang="ts">
import { computed } from 'vue'
import type { CommissionView } from '../api/client'
import CautionList from '../parts/CautionList.vue'
import RowForm from '../parts/RowForm.vue'

const props = defineProps<{ commission: CommissionView }>()
// what it goes on decides which of its sizes are asked
const fields = computed(() => {
  const on = props.commission.fields.find((f) => f.name === 'carrier')?.text
  const hide = on === 'tiers' ? ['count', 'acrossMM', 'domed'] : on === 'biscuits' ? ['tiers', 'domed'] : ['tiers']
  return props.commission.fields.filter((f) => !hide.includes(f.name))
})
</script>

<template>
  <div class="stack">
    <CautionList :cautions="commission.cautions" />
    <RowForm :id="commission.id" kind="commissions" :version="commission.version" :fields="fields" />
  </div>
</template>
