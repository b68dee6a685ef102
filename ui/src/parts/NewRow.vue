<script setup lang="ts">
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import { api, Refused, take, type Choice, type Kind } from '../api/client'
import { useAct, useBlank } from '../api/queries'
import FieldInput from './FieldInput.vue'

const props = defineProps<{
  kind: Kind
  parent?: number
  only?: string[]
  label: string
  of?: string
  preset?: Record<string, string>
}>()
const emit = defineEmits<{ made: [id: number]; leave: []; typed: [set: Record<string, string>] }>()
const blank = useBlank(props.kind, () => props.of ?? '')
const texts = reactive<Record<string, string>>({ ...props.preset })
function type(name: string, text: string) {
  texts[name] = text
  emit('typed', { ...texts })
}
const errors = reactive<Record<string, string>>({})
const choices = reactive<Record<string, Choice[]>>({})
const general = ref('')
const fields = computed(() =>
  (blank.data.value?.fields ?? []).filter(
    (f) => (!props.only || props.only.includes(f.name)) && !(props.of && f.name === 'kind'),
  ),
)
const act = useAct((studio, set: Record<string, string>) =>
  take(
    api.POST('/s/{studio}/rows/{kind}', {
      params: { path: { studio, kind: props.kind } },
      body: { parent: props.parent ?? 0, set },
    }),
  ),
)
async function make() {
  general.value = ''
  for (const k of Object.keys(errors)) delete errors[k]
  const set: Record<string, string> = {}
  for (const f of fields.value) set[f.name] = texts[f.name] ?? f.text
  for (const [name, text] of Object.entries(props.preset ?? {})) set[name] ??= text
  try {
    const { id } = await act.mutateAsync(set)
    emit('made', id)
  } catch (err) {
    if (err instanceof Refused && err.problem.status === 0) return emit('leave') // kept, to be sent later
    const marked = err instanceof Refused ? err.problem.fields.filter((f) => f.field in set) : []
    for (const f of marked) {
      errors[f.field] = f.detail
      choices[f.field] = f.choices ?? []
    }
    if (marked.length === 0) general.value = err instanceof Error ? err.message : 'It was not saved.'
  }
}
</script>

<template>
  <form class="flour new" @submit.prevent="make">
    <div class="fields">
      <FieldInput
        v-for="f in fields"
        :key="f.name"
        :field="{ ...f, text: texts[f.name] ?? f.text }"
        :error="errors[f.name]"
        :choices="choices[f.name]"
        :class="{ wide: f.kind === 'lines' || f.kind === 'notes' || f.kind === 'many' }"
        @save="(t) => type(f.name, t)"
      />
    </div>
    <p v-if="general" class="danger" role="alert">{{ general }}</p>
    <div class="row">
      <Button type="submit" :label="label" :loading="act.isPending.value" />
      <Button type="button" label="Leave it" severity="secondary" outlined @click="emit('leave')" />
    </div>
  </form>
</template>

<style scoped>
.new {
  padding: 18px 20px;
  display: grid;
  gap: 18px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(260px, 100%), 1fr));
  gap: 14px 20px;
  align-items: start;
}
.wide {
  grid-column: 1 / -1;
}
</style>
