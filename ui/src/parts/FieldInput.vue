<script setup lang="ts">
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import Textarea from 'primevue/textarea'
import { computed, ref, useId, watch } from 'vue'
import type { Choice, FieldView } from '../api/client'
import type { Clash } from './saving'
import ColourWell from './ColourWell.vue'

const props = defineProps<{
  field: FieldView
  error?: string
  clash?: Clash
  saved?: number
  reset?: number
  waits?: boolean // what was typed is not sent yet
  kept?: string // what was typed and is not in the row: it waits, or was refused
  choices?: Choice[]
}>()
const emit = defineEmits<{ save: [text: string]; edit: []; keepMine: []; takeTheirs: []; keep: [line: string] }>()

const id = useId()
const text = ref(props.kept ?? props.field.text)
const sent = ref(props.field.text)
watch(
  () => props.field.text,
  (now) => {
    // what somebody is typing, or what could not be read, is never thrown away
    if (text.value === sent.value && !props.error) text.value = now
    sent.value = now
  },
)
watch(
  () => [props.saved, props.reset],
  () => {
    sent.value = props.field.text
    text.value = props.field.text
  },
)
// what another window saves while somebody types here must not be typed over
watch(text, (now) => now !== sent.value && emit('edit'), { flush: 'sync' })
const listed = computed(() => (props.field.choices ?? []).map((c) => ({ ...c, say: c.say || c.code })))
const ticked = computed(() =>
  text.value
    .split(',')
    .map((s) => s.trim())
    .filter(Boolean),
)
const long = computed(() => props.field.kind === 'lines' || props.field.kind === 'notes')
const rows = computed(() => Math.min(8, Math.max(3, text.value.split('\n').length)))

function commit() {
  if (text.value !== sent.value || props.error) emit('save', text.value)
}
function set(value: string) {
  text.value = value
  emit('save', value)
}
function choose(c: Choice) {
  if (c.keep) emit('keep', c.keep)
  set(c.text)
}
function toggle(code: string) {
  const now = ticked.value
  set((now.includes(code) ? now.filter((c) => c !== code) : [...now, code]).join(', '))
}
</script>

<template>
  <div class="field" :class="[field.kind, { wrong: error }]">
    <template v-if="field.kind === 'yes'">
      <div class="tick">
        <Checkbox
          :model-value="text === 'yes'"
          binary
          :input-id="id"
          :aria-describedby="error ? id + 'e' : undefined"
          @update:model-value="(v: boolean) => set(v ? 'yes' : 'no')"
        />
        <label :for="id">{{ field.label }}</label>
      </div>
    </template>
    <template v-else-if="field.kind === 'many'">
      <span :id="id + 'l'" class="label">{{ field.label }}</span>
      <div class="row" role="group" :aria-labelledby="id + 'l'">
        <span v-for="c in listed" :key="c.code" class="tick">
          <Checkbox
            :model-value="ticked.includes(c.code)"
            binary
            :input-id="id + c.code"
            @update:model-value="toggle(c.code)"
          />
          <label :for="id + c.code">{{ c.say }}</label>
        </span>
      </div>
    </template>
    <template v-else>
      <label :id="id + 'l'" class="label" :for="field.kind === 'choice' ? undefined : id">
        {{ field.label }}<span v-if="field.assumed" class="quiet tiny"> (assumed)</span>
      </label>
      <Select
        v-if="field.kind === 'choice'"
        :model-value="text"
        :options="listed"
        option-label="say"
        option-value="code"
        :placeholder="listed.find((c) => c.code === '')?.say"
        :aria-labelledby="id + 'l'"
        :label-id="id"
        :invalid="!!error"
        fluid
        @update:model-value="set"
      />
      <Textarea
        v-else-if="long"
        :id="id"
        v-model="text"
        :rows="rows"
        :invalid="!!error"
        :aria-describedby="id + 'e'"
        fluid
        @blur="commit"
      />
      <div v-else class="line">
        <ColourWell v-if="field.kind === 'swatch'" :hex="text" :label="field.label" @pick="set" />
        <InputText
          :id="id"
          v-model="text"
          :invalid="!!error"
          :aria-describedby="id + 'e'"
          autocomplete="off"
          fluid
          @blur="commit"
          @keydown.enter="commit"
        />
      </div>
    </template>
    <div :id="id + 'e'" class="under">
      <p v-if="waits" class="soon" role="status">Not sent yet: it waits in this browser.</p>
      <p v-else-if="error" class="danger" role="alert">{{ error }}</p>
      <p v-else-if="saved" class="quiet" role="status">Saved.</p>
      <p v-else-if="field.hint" class="quiet">{{ field.hint }}</p>
    </div>
    <div v-if="error && choices?.length" class="row choices">
      <Button
        v-for="c in choices"
        :key="c.say"
        :label="c.say"
        size="small"
        severity="secondary"
        outlined
        @click="choose(c)"
      />
    </div>
    <div v-if="clash" class="clash" role="alert">
      <p>Changed meanwhile in another window.</p>
      <p>
        Yours: <b>{{ clash.yours || 'empty' }}</b>
      </p>
      <p>
        Theirs: <b>{{ clash.theirs || 'empty' }}</b>
      </p>
      <div class="row">
        <Button label="Keep mine" size="small" @click="emit('keepMine')" />
        <Button label="Take theirs" size="small" severity="secondary" outlined @click="emit('takeTheirs')" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.field {
  min-width: 0;
}
.label {
  display: block;
  font-size: 14px;
  font-weight: 550;
  margin-bottom: 4px;
}
.tick {
  display: inline-flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
}
.tick label {
  padding: 10px 6px 10px 0;
}
.line {
  display: flex;
  gap: 8px;
}
.under p {
  margin: 4px 0 0;
  font-size: 13.5px;
}
.choices {
  margin-top: 6px;
}
.clash {
  margin-top: 8px;
  padding: 10px 12px;
  background: var(--honey-fill);
  border-radius: 6px;
  font-size: 14px;
}
.clash p {
  margin: 2px 0;
}
</style>
