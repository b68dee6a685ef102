<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, useId } from 'vue'
import { api, Refused, take } from '../api/client'
import { useAct, useLot } from '../api/queries'
import GelCompare from './GelCompare.vue'
import LoadState from './LoadState.vue'
import RowForm from './RowForm.vue'
import { offerUndo } from './undo'
import WhyNumber from './WhyNumber.vue'

const props = defineProps<{ lotId: number }>()
const emit = defineEmits<{ gone: [] }>()
const found = useLot(() => props.lotId)
const lot = computed(() => found.data.value)
const id = useId()
const amount = ref('')
const why = ref('')
const fault = ref('')
const takes = useAct((studio, body: { amount: string; why: string }) =>
  take(api.POST('/s/{studio}/lots/{id}/take', { params: { path: { studio, id: props.lotId } }, body })),
)
const feels = useAct((studio, what: string) =>
  take(api.POST('/s/{studio}/lots/{id}/feel/{what}', { params: { path: { studio, id: props.lotId, what } } })),
)
const remove = useAct((studio, x: { id: number; back: boolean }) => {
  const params = { params: { path: { studio, kind: 'lots' as const, id: x.id } } }
  return take(
    x.back
      ? api.POST('/s/{studio}/rows/{kind}/{id}/restore', params)
      : api.POST('/s/{studio}/rows/{kind}/{id}/remove', params),
  )
})
async function takeSome() {
  fault.value = ''
  try {
    await takes.mutateAsync({ amount: amount.value, why: why.value })
    amount.value = why.value = ''
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not taken.'
  }
}
const trouble = ref('')
async function feel(what: string) {
  trouble.value = ''
  try {
    await feels.mutateAsync(what)
  } catch (err) {
    trouble.value = err instanceof Refused ? err.message : 'It was not noted.'
  }
}
async function away() {
  const gone = props.lotId
  const name = lot.value?.name ?? 'A lot'
  try {
    await remove.mutateAsync({ id: gone, back: false })
    emit('gone')
    offerUndo(`${name}: taken away.`, () => void remove.mutateAsync({ id: gone, back: true }))
  } catch (err) {
    trouble.value = err instanceof Refused ? err.message : 'It was not taken away.'
  }
}
</script>

<template>
  <LoadState :error="found.error.value" :loading="found.isPending.value" @again="found.refetch()" />
  <div v-if="lot" class="inside">
    <div class="stack">
      <p v-if="lot.caution" class="soon small">{{ lot.caution }}</p>
      <RowForm :id="lot.id" kind="lots" :version="lot.version" :fields="lot.fields" />
      <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
      <div><Button label="Take the lot away" severity="secondary" outlined size="small" @click="away" /></div>
    </div>
    <div class="stack side">
      <form class="box" @submit.prevent="takeSome">
        <h3>Take some out</h3>
        <label :for="id + 'a'" class="small">How much</label>
        <InputText :id="id + 'a'" v-model="amount" :invalid="!!fault" placeholder="20 g, 1 tsp" autocomplete="off" />
        <label :for="id + 'w'" class="small">For what</label>
        <InputText :id="id + 'w'" v-model="why" autocomplete="off" />
        <p v-if="fault" class="danger small" role="alert">{{ fault }}</p>
        <Button type="submit" label="Take it" size="small" :loading="takes.isPending.value" />
      </form>
      <div v-if="lot.gel" class="box">
        <h3>This bottle</h3>
        <p class="small">{{ lot.gel.strength }}</p>
        <div class="band" aria-hidden="true">
          <span :style="{ width: `${Math.min(100, lot.gel.band * 200)}%` }"></span>
        </div>
        <p v-if="lot.gel.deepens" class="small quiet">{{ lot.gel.deepens }}</p>
        <p class="small quiet">{{ lot.gel.drop }}</p>
        <GelCompare :lot="lot" />
        <ul v-if="lot.gel.history.length" class="small quiet plain">
          <li v-for="h in lot.gel.history" :key="h">{{ h }}</li>
        </ul>
      </div>
      <div v-if="lot.strength" class="box">
        <h3>
          <span class="big e">{{ lot.strength.figure.text }}</span> % gum
          <WhyNumber :why="lot.strength.figure.why" :of="`${lot.name}: ${lot.strength.figure.text} % gum`" />
        </h3>
        <p class="small quiet">What did its pieces show? Each report moves it a little.</p>
        <div class="row">
          <Button
            v-for="f in lot.strength.feels"
            :key="f.code"
            :label="f.say"
            size="small"
            severity="secondary"
            outlined
            @click="feel(f.code)"
          />
        </div>
        <ul v-if="lot.strength.history.length" class="small quiet plain">
          <li v-for="(h, i) in lot.strength.history" :key="i">{{ h }}</li>
        </ul>
      </div>
      <div v-if="lot.strength?.rescue.length" class="box">
        <h3>If it went wrong</h3>
        <details v-for="r in lot.strength.rescue" :key="r.say">
          <summary>{{ r.say }}</summary>
          <p v-for="d in r.doses" :key="d.unit" class="dose">
            <span class="big">{{ d.text }}</span> {{ d.unit }} <WhyNumber :why="d.why" :of="`${d.text} ${d.unit}`" />
          </p>
          <p v-for="d in r.do" :key="d" class="small">{{ d }}</p>
          <p v-if="r.bin" class="small soon">{{ r.bin }}</p>
        </details>
      </div>
    </div>
  </div>
</template>

<style scoped>
.inside {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 18px;
  padding: 4px 16px 18px;
}
.box {
  border: 1px solid var(--linen);
  border-radius: 8px;
  padding: 12px 14px;
  display: grid;
  gap: 6px;
  justify-items: start;
}
.box .p-inputtext {
  width: 100%;
}
.e {
  font-size: 26px;
}
.plain {
  padding-left: 1.1em;
  margin: 0;
}
.band {
  width: 100%;
  height: 8px;
  border-radius: 4px;
  background: var(--linen);
  display: flex;
  justify-content: center;
}
.band span {
  background: var(--moss);
  border-radius: 4px;
}
summary {
  min-height: 44px;
  display: list-item;
  padding: 11px 0;
  cursor: pointer;
  font-weight: 550;
}
.dose {
  margin: 0;
}
.dose .big {
  font-size: 22px;
}
@media (max-width: 900px) {
  .inside {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
