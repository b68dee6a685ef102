<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { reactive, ref } from 'vue'
import { api, Refused, take, type ToolView } from '../api/client'
import { useAct } from '../api/queries'

// The settings of a rolling machine as sheets of their thickness, ten times true, and a strip to weigh for one of them.
const props = defineProps<{ tool: ToolView }>()
const strip = reactive({ setting: '', length: '', width: '', grams: '' })
const asks = [
  ['setting', 'At setting', '3'],
  ['length', 'Strip, long', '150 mm'],
  ['width', 'wide', '20 mm'],
  ['grams', 'weighs', '6.5 g'],
] as const
const errors = ref<Record<string, string>>({})
const fault = ref('')
const told = ref('')
const weigh = useAct((s, body: typeof strip) =>
  take(api.POST('/s/{studio}/tools/{id}/strip', { params: { path: { studio: s, id: props.tool.id } }, body })),
)
async function keep() {
  errors.value = {}
  fault.value = told.value = ''
  try {
    await weigh.mutateAsync({ ...strip })
    told.value = `Setting ${strip.setting} is known by this strip now.`
    strip.grams = ''
  } catch (err) {
    if (!(err instanceof Refused)) fault.value = 'It was not kept.'
    else if (err.problem.fields?.length)
      errors.value = Object.fromEntries(err.problem.fields.map((f) => [f.field, f.detail]))
    else fault.value = err.message
  }
}
const UP = 10
</script>

<template>
  <section v-if="tool.roller" class="steps" aria-label="Settings">
    <h3>What it rolls</h3>
    <p class="quiet small">{{ tool.roller.says }}</p>
    <ol>
      <li v-for="s in tool.roller.settings" :key="s.at">
        <span class="at">{{ s.at }}</span>
        <span class="bar" :class="{ weighed: s.weighed }" :style="{ height: `${Math.max(2, s.mm * UP)}px` }"></span>
        <span class="small">{{ s.says }}<template v-if="s.weighed">, weighed</template></span>
      </li>
    </ol>
    <p class="quiet small">Drawn ten times as thick.</p>
    <p v-for="w in tool.roller.wear" :key="w" class="soon">{{ w }}</p>
    <form class="row" @submit.prevent="keep">
      <label v-for="[name, says, hint] in asks" :key="name"
        >{{ says }}
        <InputText v-model="strip[name]" autocomplete="off" :placeholder="hint" :invalid="!!errors[name]" />
        <span v-if="errors[name]" class="danger small" role="alert">{{ errors[name] }}</span>
      </label>
      <Button type="submit" label="Keep this strip" severity="secondary" outlined />
    </form>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <p v-if="told" class="quiet small" role="status">{{ told }}</p>
  </section>
</template>

<style scoped>
.steps {
  border-top: 1px solid var(--linen);
  padding-top: 10px;
  display: grid;
  gap: 6px;
}
.steps h3 {
  font: inherit;
  font-size: 14px;
  color: var(--quiet);
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
}
li {
  display: grid;
  grid-template-columns: 28px 120px 1fr;
  gap: 12px;
  align-items: center;
}
.at {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.bar {
  background: var(--linen);
  border: 1px solid var(--ink);
  border-width: 1px 0;
}
.bar.weighed {
  background: var(--sage);
}
form {
  gap: 8px 14px;
  align-items: end;
}
label {
  display: grid;
  gap: 2px;
  font-size: 14px;
}
label :deep(input) {
  width: 110px;
}
</style>
