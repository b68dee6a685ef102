<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, Refused, take, type WaitView } from '../api/client'
import { useBenchAct, useStudio } from '../api/queries'

// What rests or dries, soonest first. Going on before it is over is asked for once.
defineProps<{ waiting: WaitView[] }>()
const studio = useStudio()
const hands = useBenchAct((s, x: { op: string; version: number; anyway: boolean }) =>
  take(
    api.POST('/s/{studio}/bench/{op}/hands/{version}', {
      params: { path: { studio: s, op: x.op, version: x.version }, query: { do: '', anyway: x.anyway } },
    }),
  ),
)
const asked = ref({ op: '', say: '' })
async function goOn(w: WaitView) {
  const anyway = asked.value.op === w.op
  asked.value = { op: '', say: '' }
  try {
    await hands.mutateAsync({ op: w.op, version: w.version, anyway })
  } catch (err) {
    const asks = err instanceof Refused && err.problem.fields?.some((f) => f.field === 'anyway')
    asked.value = { op: asks ? w.op : '', say: err instanceof Error ? err.message : 'It was not marked.' }
  }
}
</script>

<template>
  <section aria-label="Waiting">
    <h2 class="quiet side">
      Waiting, soonest first · <RouterLink :to="`/s/${studio}/shelf`">on the shelf</RouterLink>
    </h2>
    <p v-if="!waiting.length" class="quiet small">Nothing is resting or drying.</p>
    <p v-if="asked.say && !asked.op" class="danger" role="alert">{{ asked.say }}</p>
    <div v-for="x in waiting" :key="x.title" class="wait">
      <div class="what">
        <p>{{ x.title }}</p>
        <p>
          <span class="big until">{{ x.until }}</span> <span class="quiet in">{{ x.in }}</span>
        </p>
        <p v-if="x.then" class="then">
          <span v-if="asked.op === x.op" class="soon" role="alert">{{ asked.say }}</span>
          <span v-else class="quiet small">then: {{ x.then }}</span>
          <Button
            :label="asked.op === x.op ? 'Do it all the same' : 'Go on now'"
            severity="secondary"
            :outlined="asked.op === x.op"
            :text="asked.op !== x.op"
            size="small"
            :aria-label="`${asked.op === x.op ? 'Do it all the same' : 'Go on now'}: ${x.then}`"
            @click="goOn(x)"
          />
        </p>
      </div>
      <svg width="104" height="34" viewBox="0 0 104 34" aria-hidden="true" :class="x.cord">
        <path :d="`M4 6Q52 ${6 + 40 * (1 - x.share)} 100 6`" />
        <circle cx="4" cy="6" r="3.5" />
        <circle cx="100" cy="6" r="3.5" />
      </svg>
    </div>
  </section>
</template>

<style scoped>
.side {
  font:
    500 14px 'Figtree Variable',
    sans-serif;
}
.wait {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  border-top: 1px solid var(--linen);
  padding: 10px 0 4px;
}
.what {
  min-width: 0;
  flex: 1;
}
.wait p {
  margin: 2px 0;
}
.in {
  white-space: nowrap;
}
.until {
  font-size: 21px;
}
.then {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 0 8px;
}
.then span {
  flex: 1 1 140px;
}
.then :deep(button) {
  min-height: 44px;
}
.wait svg {
  flex: none;
  fill: var(--honey);
  stroke: var(--honey);
}
.wait svg path {
  fill: none;
  stroke-width: 2;
}
.wait svg.freezer {
  fill: var(--dusk);
  stroke: var(--dusk);
}
</style>
