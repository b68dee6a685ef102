<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { reactive, ref, useId } from 'vue'
import { api, Refused, take, type LotView } from '../api/client'
import { useAct } from '../api/queries'
import ColourWell from './ColourWell.vue'
import PhotoPicker from './PhotoPicker.vue'

const props = defineProps<{ lot: LotView }>()
const id = useId()
const open = ref(false)
const mix = reactive({ gel: '1 drop', paste: '10 g', hours: '0', seen: '' })
const errors = reactive<Record<string, string>>({})
const says: [keyof typeof mix, string][] = [
  ['gel', 'Gel that went in'],
  ['paste', 'White sugar paste'],
  ['hours', 'Hours since it was kneaded'],
  ['seen', 'It looks like'],
]
const act = useAct((studio, body: typeof mix) =>
  take(api.POST('/s/{studio}/lots/{id}/compare', { params: { path: { studio, id: props.lot.id } }, body })),
)
async function compare() {
  for (const k of Object.keys(errors)) delete errors[k]
  try {
    await act.mutateAsync({ ...mix })
    mix.seen = ''
    open.value = false
  } catch (err) {
    if (err instanceof Refused && err.problem.fields.length)
      for (const f of err.problem.fields) errors[f.field] = f.detail
    else errors.seen = err instanceof Error ? err.message : 'It was not kept.'
  }
}
</script>

<template>
  <Button v-if="!open" label="Compare a mix" size="small" severity="secondary" outlined @click="open = true" />
  <form v-else class="compare" @submit.prevent="compare">
    <p class="small quiet">
      Knead one drop into 10 g of white paste. Hold it against a colour card in daylight, or take its photo beside white
      paper.
    </p>
    <template v-for="[name, say] in says" :key="name">
      <label :for="id + name" class="small">{{ say }}</label>
      <div class="line">
        <ColourWell v-if="name === 'seen'" :hex="mix.seen" label="It looks like" @pick="(hex) => (mix.seen = hex)" />
        <InputText :id="id + name" v-model="mix[name]" :invalid="!!errors[name]" autocomplete="off" />
      </div>
      <p v-if="errors[name]" class="danger small" role="alert">{{ errors[name] }}</p>
    </template>
    <PhotoPicker @picked="(hex) => (mix.seen = hex)" />
    <div class="row">
      <Button type="submit" label="Keep what it showed" size="small" :loading="act.isPending.value" />
      <Button type="button" label="Leave it" size="small" severity="secondary" text @click="open = false" />
    </div>
  </form>
</template>

<style scoped>
.compare {
  display: grid;
  gap: 5px;
  width: 100%;
}
.line {
  display: flex;
  gap: 8px;
}
.line .p-inputtext {
  width: 100%;
}
p {
  margin: 0;
}
</style>
