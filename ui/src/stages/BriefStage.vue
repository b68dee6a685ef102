<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { api, take, type CommissionView } from '../api/client'
import { useAct } from '../api/queries'
import CautionList from '../parts/CautionList.vue'
import CakeElevation from '../pictures/CakeElevation.vue'
import RowForm from '../parts/RowForm.vue'

const props = defineProps<{ commission: CommissionView }>()
// what it goes on decides which of its sizes are asked
const tiered = computed(() => props.commission.fields.find((f) => f.name === 'carrier')?.text === 'tiers')
const tiers = computed(() => props.commission.cake?.tiers.length ?? 0)
const add = useAct((s, id: number) =>
  take(api.POST('/s/{studio}/commissions/{id}/tiers', { params: { path: { studio: s, id } } })),
)
const off = useAct((s, at: number) =>
  take(
    api.POST('/s/{studio}/commissions/{id}/tiers/{at}/off', {
      params: { path: { studio: s, id: props.commission.id, at } },
    }),
  ),
)
const fields = computed(() => {
  const on = props.commission.fields.find((f) => f.name === 'carrier')?.text
  const hide = on === 'tiers' ? ['count', 'acrossMM', 'domed'] : on === 'biscuits' ? ['tiers', 'domed'] : ['tiers']
  return props.commission.fields.filter((f) => !hide.includes(f.name))
})
</script>

<template>
  <div class="stack">
    <CautionList :cautions="commission.cautions" />
    <div class="brief" :class="{ two: commission.cake || tiered || commission.eats.length }">
      <section v-if="commission.cake" class="flour on" aria-label="What it goes on">
        <CakeElevation :cake="commission.cake" />
        <p v-if="tiered" class="row">
          <Button label="Put a tier on" size="small" severity="secondary" outlined @click="add.mutate(commission.id)" />
          <Button label="Take the top off" size="small" severity="secondary" text @click="off.mutate(tiers - 1)" />
        </p>
        <dl v-if="commission.eats.length" aria-label="What follows from who eats">
          <template v-for="e in commission.eats" :key="e.what">
            <dt>{{ e.what }}</dt>
            <dd>{{ e.says }}</dd>
          </template>
        </dl>
      </section>
      <section v-else-if="tiered || commission.eats.length" class="flour on" aria-label="What it goes on">
        <Button v-if="tiered" label="Put a tier on" severity="secondary" outlined @click="add.mutate(commission.id)" />
        <dl v-if="commission.eats.length" aria-label="What follows from who eats">
          <template v-for="e in commission.eats" :key="e.what">
            <dt>{{ e.what }}</dt>
            <dd>{{ e.says }}</dd>
          </template>
        </dl>
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
dl {
  margin: 14px 0 0;
  border-top: 1px solid var(--linen);
  padding-top: 10px;
}
dt {
  font-weight: 650;
}
dd {
  margin: 0 0 8px;
  color: var(--quiet);
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
