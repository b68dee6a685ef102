<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useStudio, useWorkload } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import WorkloadPicture from '../pictures/WorkloadPicture.vue'

const studio = useStudio()
const from = ref('')
const load = useWorkload(from)
const v = computed(() => load.data.value)
const told = computed(() => v.value?.days.filter((d) => d.busy || d.over) ?? [])
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Hands and hours</h1>
      <RouterLink :to="`/s/${studio}/line`">To the line</RouterLink>
    </header>
    <LoadState :error="load.error.value" :loading="load.isPending.value" @again="load.refetch()" />
    <template v-if="v">
      <p>{{ v.says }}</p>
      <p class="row" role="group" aria-label="Which days">
        <Button label="Earlier" severity="secondary" outlined @click="from = v.earlier" />
        <b>{{ v.shown }}</b>
        <Button label="Later" severity="secondary" outlined @click="from = v.later" />
        <Button v-if="from" label="From today" severity="secondary" text @click="from = ''" />
      </p>
      <section class="flour card">
        <WorkloadPicture :load="v" />
        <p class="quiet small">
          Boxes are the hours of who is there, filled with what hands are planned for; above the dashed line ({{
            Math.round(v.share * 100)
          }}
          %) an evening no longer breathes. Rows are how many are taken at once at most; dark: all there are.
        </p>
      </section>
      <p v-if="!told.length" class="quiet">
        Nothing hangs on these days. <RouterLink :to="`/s/${studio}/commissions`">Take an order</RouterLink>, and its
        work stands here.
      </p>
      <details v-else class="flour card">
        <summary>The same in words</summary>
        <ul>
          <li v-for="d in told" :key="d.date">{{ d.says }}{{ d.over && `; handed over: ${d.over}` }}</li>
        </ul>
        <ul>
          <li v-for="h in v.held" :key="h.name">{{ h.says }}</li>
        </ul>
      </details>
    </template>
  </div>
</template>

<style scoped>
.card {
  padding: 16px 20px;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
</style>
