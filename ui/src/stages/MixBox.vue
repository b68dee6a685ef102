<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, useId } from 'vue'
import { api, Refused, take, type Choice } from '../api/client'
import { useAct } from '../api/queries'

// A mix as people name it: what can be read in two ways is asked.
const props = defineProps<{ piece: number }>()
type Means = '' | 'flowerPaste' | 'modellingPaste'
const id = useId()
const text = ref('')
const fault = ref('')
const choices = ref<Choice[]>([])
const act = useAct((studio, body: { text: string; means: Means }) =>
  take(api.POST('/s/{studio}/pieces/{id}/mix', { params: { path: { studio, id: props.piece } }, body })),
)
async function mix(means: Means = '') {
  fault.value = ''
  choices.value = []
  try {
    await act.mutateAsync({ text: text.value, means })
    text.value = ''
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not saved.'
    if (err instanceof Refused) choices.value = err.problem.fields[0]?.choices ?? []
  }
}
</script>

<template>
  <form class="mixbox" @submit.prevent="mix()">
    <label :for="id">Or say the mix as you know it</label>
    <div class="row">
      <InputText
        :id="id"
        v-model="text"
        :invalid="!!fault"
        placeholder="1:1 with flower paste, 3:1, 1.6 %"
        autocomplete="off"
      />
      <Button type="submit" label="Mix it so" size="small" severity="secondary" outlined />
    </div>
    <p v-if="fault" class="small" :class="choices.length ? 'soon' : 'danger'" role="alert">{{ fault }}</p>
    <div v-if="choices.length" class="row">
      <Button
        v-for="c in choices"
        :key="c.text"
        type="button"
        :label="c.say"
        size="small"
        severity="secondary"
        outlined
        @click="mix(c.text as Means)"
      />
    </div>
  </form>
</template>

<style scoped>
.mixbox {
  border-top: 1px solid var(--linen);
  margin-top: 14px;
  padding-top: 12px;
  display: grid;
  gap: 6px;
}
label {
  font-size: 14px;
  font-weight: 550;
}
.p-inputtext {
  width: min(340px, 100%);
}
p {
  margin: 0;
}
</style>
