<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, Refused, take } from '../api/client'
import { useAct, useKitchen, useStudio } from '../api/queries'

// A new studio is asked three things, one after the other, and comes to its first plan.
const studio = useStudio()
const router = useRouter()
const kitchen = useKitchen()
const us = computed(() => kitchen.data.value?.units === 'us')
const at = ref(0)
const set = reactive<Record<string, string>>({})
const faults = reactive<Record<string, string>>({})
const failed = ref('')
type Asked = { name: string; label: string; hint: string; usHint?: string }
const questions: { says: string; next: string; why: string; fields: Asked[] }[] = [
  {
    says: 'What do you want to make?',
    next: 'Next: by when',
    why: 'One kind of piece, pressed in a mould, is enough to begin with. Other ways of making come later, on its page.',
    fields: [
      { name: 'name', label: 'Pieces', hint: 'such as Ivy leaves' },
      { name: 'wanted', label: 'How many', hint: 'such as 20, or a dozen' },
    ],
  },
  {
    says: 'By when?',
    next: 'Next: what one weighs',
    why: 'The hand-over does not move. Your hours are all that can be planned into.',
    fields: [
      { name: 'handOver', label: 'Handed over', hint: 'such as Sat week 10:00', usHint: 'such as Sat week 10am' },
      {
        name: 'hours',
        label: 'When you are at the bench',
        hint: 'such as Tue, Thu 19:00-22:00, or Mon-Fri 9:00-12:00',
        usHint: 'such as Tue, Thu 7pm-10pm, or Mon-Fri 9am-12pm',
      },
    ],
  },
  {
    says: 'What does one weigh?',
    next: 'Next: see the plan',
    why: 'Weigh a finished one, or the ball that fills the mould. Its size says how it dries.',
    fields: [
      { name: 'weighedG', label: 'One weighs', hint: 'such as 3.5 g', usHint: 'such as 3.5 g, or 1/8 oz' },
      { name: 'lengthMM', label: 'Length', hint: 'such as 60 mm', usHint: 'such as 2 1/4 in' },
      { name: 'widthMM', label: 'Width', hint: 'such as 40 mm', usHint: 'such as 1 1/2 in' },
      { name: 'depthMM', label: 'Thickness', hint: 'such as 4 mm', usHint: 'such as 1/8 in' },
    ],
  },
]
const asked = computed(() => questions[at.value] ?? { says: '', next: '', why: '', fields: [] })
const send = useAct((s, upTo: number) =>
  take(api.POST('/s/{studio}/first', { params: { path: { studio: s } }, body: { upTo, set: { ...set } } })),
)
async function go(to: number) {
  at.value = to
  await nextTick()
  document.querySelector<HTMLInputElement>('.first input')?.focus()
}
async function next() {
  for (const name of Object.keys(faults)) delete faults[name]
  failed.value = ''
  try {
    const made = await send.mutateAsync(at.value + 1)
    if (at.value < questions.length - 1) await go(at.value + 1)
    else await router.push(`/s/${studio.value}/commissions/${made.id}/line`)
  } catch (err) {
    const marked = err instanceof Refused ? err.problem.fields : []
    for (const f of marked) faults[f.field] = f.detail
    const first = questions.findIndex((q) => q.fields.some((f) => faults[f.name]))
    if (first >= 0 && first !== at.value) await go(first)
    if (first < 0) failed.value = err instanceof Error ? err.message : 'It was not written down.'
  }
}
</script>

<template>
  <div class="stack first">
    <p class="quiet" role="status">{{ at + 1 }} of {{ questions.length }}</p>
    <h1>{{ asked.says }}</h1>
    <p class="quiet">{{ asked.why }}</p>
    <form class="flour form" @submit.prevent="next">
      <div v-for="f in asked.fields" :key="f.name" class="field" :class="{ wrong: faults[f.name] }">
        <label :for="f.name">{{ f.label }}</label>
        <InputText
          :id="f.name"
          v-model="set[f.name]"
          :invalid="!!faults[f.name]"
          :aria-describedby="`${f.name}h`"
          autocomplete="off"
          fluid
        />
        <p
          :id="`${f.name}h`"
          :class="faults[f.name] ? 'danger' : 'quiet small'"
          :role="faults[f.name] ? 'alert' : undefined"
        >
          {{ faults[f.name] ?? (us ? (f.usHint ?? f.hint) : f.hint) }}
        </p>
      </div>
      <p v-if="failed" class="danger" role="alert">{{ failed }}</p>
      <p class="row">
        <Button type="submit" :label="asked.next" :loading="send.isPending.value" />
        <Button v-if="at" label="Back" severity="secondary" outlined @click="go(at - 1)" />
        <RouterLink v-else :to="`/s/${studio}/kitchen`">Look at the kitchen first</RouterLink>
      </p>
    </form>
    <p class="quiet small">
      The room is taken to be {{ kitchen.data.value?.room }} and the paste to be plain white; Kitchen and Pantry say
      otherwise whenever you like.
    </p>
  </div>
</template>

<style scoped>
.first {
  max-width: 640px;
}
.form {
  display: grid;
  gap: 14px;
  padding: 18px 20px;
}
label {
  display: block;
  font-weight: 600;
  margin-bottom: 4px;
}
.field p {
  margin: 4px 0 0;
}
</style>
