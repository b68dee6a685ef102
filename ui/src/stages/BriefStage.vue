<script setup lang="ts">
import { computed } from 'vue'
import type { CommissionView } from '../api/client'
import CautionList from '../parts/CautionList.vue'
import CakeElevation from '../pictures/CakeElevation.vue'
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
    <div class="brief" :class="{ two: commission.cake }">
      <section v-if="commission.cake" class="flour on" aria-label="What it goes on">
        <CakeElevation :cake="commission.cake" />
      </section>
      <RowForm :id="commission.id" kind="commissions" :version="commission.version" :fields="fields" />
    </div>
  </div>
</template>

<style scoped>
.brief {
  display: grid;
  gap: 22px;
}
.on {
  order: 1;
  padding: 18px 22px;
}
@media (min-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr) 330px;
    align-items: start;
  }
  .on {
    position: sticky;
    top: 12px;
  }
}
</style>
