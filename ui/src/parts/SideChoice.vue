<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, Refused, take, type SchoolView } from '../api/client'
import { useAct } from '../api/queries'

// Where good makers differ: both reasons, and which side this studio is on.
defineProps<{ questions: SchoolView[] }>()
const fault = ref('')
const act = useAct((studio, x: { question: string; side: string }) =>
  take(api.POST('/s/{studio}/schools/{question}/{side}', { params: { path: { studio, ...x } } })),
)
const label = (q: SchoolView, side: string) => (q.chosen !== side ? 'Make it our way' : q.own ? 'Our way' : 'In use')
async function choose(question: string, side: string) {
  fault.value = ''
  try {
    await act.mutateAsync({ question, side })
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not saved.'
  }
}
</script>

<template>
  <section v-for="q in questions" :key="q.code" class="question">
    <h3>{{ q.asks }}: good makers differ</h3>
    <ul>
      <li v-for="s in q.sides" :key="s.code">
        <Button
          :label="label(q, s.code)"
          :aria-label="`${label(q, s.code)}: ${q.asks}, ${s.say}`"
          size="small"
          severity="secondary"
          outlined
          :disabled="q.own && q.chosen === s.code"
          @click="choose(q.code, s.code)"
        />
        <span
          ><b>{{ s.say }}</b
          ><br /><span class="small quiet">{{ s.why }}</span></span
        >
      </li>
    </ul>
    <p v-if="fault" class="danger small" role="alert">{{ fault }}</p>
  </section>
</template>

<style scoped>
.question {
  border-top: 1px solid var(--linen);
  margin-top: 16px;
  padding-top: 12px;
}
ul {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
}
li {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 4px 12px;
  align-items: center;
}
@media (max-width: 720px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
