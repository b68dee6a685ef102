<script setup lang="ts">
import { ref } from 'vue'
import { api, take, type LineStep } from '../api/client'
import { useStudio } from '../api/queries'
import OfferRow from './OfferRow.vue'

// A few minutes are free: what of all that is open fits into them?
const emit = defineEmits<{ take: [step: LineStep] }>()
const studio = useStudio()
const asked = ref(0)
const says = ref('')
const steps = ref<LineStep[]>([])
const wrong = ref('')
async function ask(minutes: number) {
  wrong.value = ''
  if (asked.value === minutes) {
    asked.value = 0
    return
  }
  try {
    const v = await take(
      api.GET('/s/{studio}/bench/fits', { params: { path: { studio: studio.value }, query: { minutes } } }),
    )
    asked.value = minutes
    says.value = v.says
    steps.value = v.steps
  } catch (err) {
    wrong.value = err instanceof Error ? err.message : String(err)
  }
}
function taken(step: LineStep) {
  asked.value = 0
  emit('take', step)
}
</script>

<template>
  <section class="free" aria-label="A few minutes free" aria-live="polite">
    <h2 class="quiet side">A few minutes free: what fits?</h2>
    <p class="row">
      <button v-for="m in [5, 10, 20, 40]" :key="m" type="button" :aria-pressed="asked === m" @click="ask(m)">
        {{ m }} min
      </button>
    </p>
    <p v-if="wrong" class="danger" role="alert">{{ wrong }}</p>
    <template v-if="asked">
      <p class="small">{{ says }}.</p>
      <OfferRow v-for="s in steps" :key="s.op" :step="s" takes @take="taken" />
    </template>
  </section>
</template>

<style scoped>
.row {
  gap: 8px;
  margin: 6px 0;
}
button {
  min-height: 44px;
  min-width: 62px;
  padding: 6px 10px;
  border: 1px solid var(--linen);
  border-radius: 6px;
  background: var(--flour);
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
button[aria-pressed='true'] {
  background: var(--sage);
  font-weight: 650;
}
.side {
  font:
    500 14px 'Figtree Variable',
    sans-serif;
  letter-spacing: 0;
}
</style>
