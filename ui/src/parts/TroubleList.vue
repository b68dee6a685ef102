<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, type Trouble } from '../api/client'
import { useBenchAct, useStudio } from '../api/queries'

// What is wrong today, the dearest first: one sentence, one remedy, one press. The first few stand open: a long list
// must not push the step out of sight. Inside one order its title is not said again.
const props = defineProps<{ troubles: Trouble[]; inside?: boolean; open?: number }>()
const studio = useStudio()
const router = useRouter()
// on a telephone the step comes first
const most = computed(() => (window.matchMedia('(max-width: 720px)').matches ? 1 : (props.open ?? 3)))
const first = computed(() => props.troubles.slice(0, props.troubles.length === most.value + 1 ? undefined : most.value))
const more = computed(() => props.troubles.slice(first.value.length))
const grave = (x: Trouble) => x.stops || ['allergen', 'label', 'late', 'plan', 'handOver'].includes(x.code)
const again = useBenchAct((s, x: { id: number; n: number }) =>
  take(api.POST('/s/{studio}/pieces/{id}/more/{n}', { params: { path: { studio: s, ...x } } })),
)
const washed = useBenchAct((s) => take(api.POST('/s/{studio}/bench/washed', { params: { path: { studio: s } } })))
const fault = ref('')
async function mend(x: Trouble) {
  fault.value = ''
  if (x.to) {
    await router.push(`/s/${studio.value}/${x.to}`)
    return
  }
  try {
    if (x.act === 'washed') await washed.mutateAsync(undefined)
    else await again.mutateAsync({ id: x.pieceId ?? 0, n: x.more ?? 0 })
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not marked.'
  }
}
</script>

<template>
  <section v-if="troubles.length" class="troubles" aria-label="What is wrong today">
    <template v-for="(list, at) in [first, more]" :key="at">
      <component :is="at ? 'details' : 'div'" v-if="list.length" class="stack">
        <summary v-if="at">{{ list.length }} more {{ list.length === 1 ? 'thing' : 'things' }} to see to</summary>
        <div v-for="x in list" :key="`${x.code} ${x.commissionId} ${x.says}`" class="one" :class="{ grave: grave(x) }">
          <p>
            <span v-if="!inside && x.commission" class="whose">{{ x.commission }} </span><b>{{ x.says }}</b>
            {{ x.remedy }}
          </p>
          <Button
            v-if="x.do"
            :label="x.do"
            severity="secondary"
            outlined
            :loading="!!x.more && again.isPending.value"
            :aria-label="`${x.do}: ${x.says}`"
            @click="mend(x)"
          />
        </div>
      </component>
    </template>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
  </section>
</template>

<style scoped>
.troubles,
.stack {
  display: grid;
  gap: 6px;
}
.one {
  display: flex;
  align-items: center;
  gap: 12px;
  border-left: 4px solid var(--honey);
  padding: 2px 0 2px 12px;
}
.one.grave {
  border-color: var(--rosehip);
}
.one p {
  flex: 1;
  margin: 0;
}
.one.grave b {
  color: var(--rosehip);
}
.one :deep(button) {
  min-height: 44px;
  flex: none;
}
.whose {
  color: var(--quiet);
}
.whose::after {
  content: ' · ';
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
@media (max-width: 720px) {
  .one {
    flex-wrap: wrap;
  }
  .one p {
    flex: 1 0 100%;
  }
}
@media print {
  .one :deep(button) {
    display: none;
  }
}
</style>
