<script setup lang="ts">
import { ref } from 'vue'
import { api, take, type PieceView } from '../api/client'
import { useAct } from '../api/queries'

// Questions on which good makers differ, each at the step that it concerns, with reasons; what is taken is kept.
const props = defineProps<{ piece: PieceView }>()
const fault = ref('')
const choose = useAct((s, x: { question: string; option: string }) =>
  take(
    api.POST('/s/{studio}/pieces/{id}/way/{question}', {
      params: {
        path: { studio: s, id: props.piece.id, question: x.question },
        query: { option: x.option },
      },
    }),
  ),
)
async function pick(question: string, option: string, taken: boolean) {
  fault.value = ''
  try {
    await choose.mutateAsync({ question, option: taken ? '' : option })
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not kept.'
  }
}
</script>

<template>
  <details v-if="piece.ways.length" class="flour ways">
    <summary>Where good makers differ</summary>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <div v-for="q in piece.ways" :key="q.question" role="group" :aria-label="q.asks" class="asked">
      <p class="q">
        <b>{{ q.asks }}</b> <span class="quiet small">at: {{ q.at }}</span>
      </p>
      <button
        v-for="o in q.options"
        :key="o.option"
        type="button"
        class="option"
        :class="{ on: o.chosen || (o.usual && !q.options.some((x) => x.chosen)) }"
        :aria-pressed="!!o.chosen"
        @click="pick(q.question, o.option ?? '', !!o.chosen)"
      >
        <b>{{ o.say }}</b>
        <span class="quiet small">{{ o.why }}<template v-if="o.usual">; as usual</template></span>
      </button>
    </div>
  </details>
</template>

<style scoped>
.ways {
  padding: 10px 20px;
}
summary {
  cursor: pointer;
  font-weight: 600;
  color: var(--fern);
  padding: 4px 0;
}
.asked {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 6px 10px;
  padding: 10px 0;
  border-top: 1px solid var(--linen);
}
.q {
  grid-column: 1 / -1;
  margin: 0;
}
.option {
  display: grid;
  align-content: start;
  gap: 2px;
  min-height: 46px;
  padding: 8px 12px;
  font: inherit;
  color: var(--ink);
  text-align: left;
  background: none;
  border: 1px solid var(--linen);
  border-radius: 10px;
  cursor: pointer;
}
.option.on {
  border-color: var(--fern);
  background: var(--sage-light);
}
</style>
