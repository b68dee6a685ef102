<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, Refused, take, type PieceView } from '../api/client'
import { useAct } from '../api/queries'
import WhyNumber from './WhyNumber.vue'

// What these hands have taught of this way, and what would save them minutes.
const props = defineProps<{ piece: number; make: NonNullable<PieceView['make']> }>()
const fault = ref('')
const choose = useAct((s, x: { question: string; option: string }) =>
  take(
    api.POST('/s/{studio}/pieces/{id}/way/{question}', {
      params: { path: { studio: s, id: props.piece, question: x.question }, query: { option: x.option } },
    }),
  ),
)
async function pick(question: string, option: string) {
  fault.value = ''
  try {
    await choose.mutateAsync({ question, option })
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not kept.'
  }
}
</script>

<template>
  <section v-if="make.shortcuts.length" class="short" aria-label="Shorter">
    <h3>Shorter</h3>
    <ul>
      <li v-for="s in make.shortcuts" :key="s.says">
        <b>{{ s.saves.text }}</b> {{ s.saves.unit }}
        <WhyNumber :why="s.saves.why" :of="`${s.saves.text} ${s.saves.unit}: ${s.says}`" />
        <span>{{ s.says }}</span>
        <span v-for="c in s.costs" :key="c.text" class="quiet small">{{ c.name }}: {{ c.text }}</span>
        <Button
          v-if="s.option"
          label="Do it so"
          severity="secondary"
          outlined
          size="small"
          @click="pick(s.question, s.option)"
        />
      </li>
    </ul>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
  </section>
  <section v-if="make.learnt.length" class="short" aria-label="Your hands">
    <h3>Your hands</h3>
    <ul>
      <li v-for="l in make.learnt" :key="l.step">
        {{ l.step }}: <b>{{ l.figure.text }}</b> {{ l.figure.unit }}
        <WhyNumber :why="l.figure.why" :of="`${l.step}: ${l.figure.text} ${l.figure.unit}`" />
        <span v-for="p in l.by" :key="p.name" class="quiet small">{{ p.name }} {{ p.text }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.short {
  margin: 18px 0;
}
.short h3 {
  margin: 0 0 4px;
}
.short ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.short li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  padding: 6px 0;
  border-bottom: 1px solid var(--linen);
}
</style>
