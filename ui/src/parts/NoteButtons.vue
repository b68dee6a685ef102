<script setup lang="ts">
import Button from 'primevue/button'
import { nextTick, ref } from 'vue'
import { Refused, sendFile, type Option } from '../api/client'
import { useNote } from '../api/drying'
import { cache, useStudio } from '../api/queries'
import FilePick from './FilePick.vue'
import { useTakeBack } from './takeBack'

// One tap is a note. What needs a number or words asks for it after the tap.
const props = defineProps<{ op: string; offers: Option[]; name: string }>()
const emit = defineEmits<{ noted: [says: string] }>()
const studio = useStudio()
const note = useNote()
const back = useTakeBack()
const asks = ref<Option>()
const count = ref('1')
const text = ref('')
const fault = ref('')
const said = ref('')
const made = ref(0)
const box = ref<HTMLElement>()
const wantsMore = (code: string) => ['broke', 'cracked', 'sagged', 'stuck', 'weighed', 'said'].includes(code)
async function tap(o: Option) {
  fault.value = said.value = ''
  if (!wantsMore(o.code)) return send(o.code, {})
  asks.value = asks.value?.code === o.code ? undefined : o
  count.value = '1'
  text.value = ''
  await nextTick()
  box.value?.querySelector('input')?.focus()
}
async function send(what: string, more: { count?: number; grams?: string; says?: string }) {
  try {
    const n = await note.mutateAsync({ op: props.op, what: what as 'firm', ...more })
    said.value = n.says
    made.value = n.id
    asks.value = undefined
    emit('noted', n.says)
  } catch (err) {
    fault.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not noted.'
  }
}
function sendAsked() {
  const code = asks.value?.code ?? ''
  if (code === 'weighed') return send(code, { grams: text.value, count: Number(count.value) || 1 })
  if (code === 'said') return send(code, { says: text.value })
  return send(code, { count: Number(count.value) || 1, says: text.value })
}
async function photograph(file: File) {
  fault.value = ''
  try {
    await sendFile(`/s/${studio.value}/notes/${made.value}/photo`, file)
    said.value += ' The photo is kept with it.'
    made.value = 0
    await cache.invalidateQueries()
  } catch (err) {
    fault.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'The photo was not kept.'
  }
}
async function takeBack() {
  said.value = ''
  await back.mutateAsync(undefined)
}
</script>

<template>
  <div>
    <div class="taps" role="group" :aria-label="`What is seen of ${name}`">
      <Button
        v-for="o in offers"
        :key="o.code"
        :label="o.say"
        severity="secondary"
        :outlined="asks?.code !== o.code"
        :aria-expanded="wantsMore(o.code) ? asks?.code === o.code : undefined"
        :disabled="note.isPending.value"
        @click="tap(o)"
      />
    </div>
    <form v-if="asks" ref="box" class="row more" @submit.prevent="sendAsked">
      <label v-if="asks.code !== 'said'"
        >{{ asks.code === 'weighed' ? 'How many lie on the scale' : 'How many' }}
        <input v-model="count" class="typed few" inputmode="numeric" />
      </label>
      <label class="grow"
        >{{ asks.code === 'weighed' ? 'They weigh' : asks.code === 'said' ? 'In words' : 'In words, if you like' }}
        <input v-model="text" class="typed" maxlength="2000" :placeholder="asks.code === 'weighed' ? '41.2 g' : ''" />
      </label>
      <Button type="submit" :label="`Note it: ${asks.say.toLowerCase()}`" />
    </form>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <div v-if="said" class="row" role="status">
      <span>Noted: {{ said }}</span>
      <Button label="Take it back" severity="secondary" text size="small" @click="takeBack" />
      <FilePick v-if="made" label="Add a photo" accept="image/*" hint="" @file="photograph" />
    </div>
  </div>
</template>

<style scoped>
.taps {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.more {
  margin-top: 10px;
  align-items: end;
}
label {
  display: grid;
  gap: 2px;
  font-size: 14px;
}
.grow {
  flex: 1 1 200px;
}
.few {
  width: 90px;
}
</style>
