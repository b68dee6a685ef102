<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, take, type BenchView } from '../api/client'
import { useAct } from '../api/queries'

// Where good makers differ at this step, with their reasons. While its batch has not begun, a side can be taken here; it
// is kept with the piece.
const props = defineProps<{ step: NonNullable<BenchView['now']> }>()
const fault = ref('')
const questions = computed(() => {
  const out: { question: string; asks: string; options: typeof props.step.ways }[] = []
  for (const w of props.step.ways) {
    const q = out.find((x) => x.question === (w.question ?? ''))
    if (q) q.options.push(w)
    else out.push({ question: w.question ?? '', asks: w.asks ?? '', options: [w] })
  }
  return out
})
const open = computed(() => !!props.step.pieceId && !props.step.actualStart)
const choose = useAct((s, x: { question: string; option: string }) =>
  take(
    api.POST('/s/{studio}/pieces/{id}/way/{question}', {
      params: {
        path: { studio: s, id: props.step.pieceId ?? 0, question: x.question },
        query: { option: x.option },
      },
    }),
  ),
)
async function pick(question: string, option: string) {
  fault.value = ''
  try {
    await choose.mutateAsync({ question, option })
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not kept.'
  }
}
</script>

<template>
  <details v-if="questions.length">
    <summary>Where good makers differ</summary>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <div v-for="q in questions" :key="q.question">
      <p v-if="q.asks">
        <b>{{ q.asks }}</b>
      </p>
      <ul>
        <li v-for="w in q.options" :key="w.say">
          <b>{{ w.say }}</b> {{ w.why }}<template v-if="w.usual"> (ours)</template
          ><template v-if="w.chosen"> (taken)</template>
          <button
            v-if="open && w.option && !w.chosen"
            type="button"
            class="take"
            @click="pick(q.question, w.usual ? '' : (w.option ?? ''))"
          >
            take this
          </button>
        </li>
      </ul>
    </div>
  </details>
</template>

<style scoped>
.take {
  font: inherit;
  font-size: 14px;
  color: var(--fern);
  background: none;
  border: 0;
  min-height: 44px;
  padding: 4px 10px;
  text-decoration: underline;
  cursor: pointer;
}
p {
  margin: 8px 0 0;
}
</style>
