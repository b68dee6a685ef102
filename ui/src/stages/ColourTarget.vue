<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref, useId } from 'vue'
import { api, Refused, take, type ColourView, type Option } from '../api/client'
import { useAct, usePantry } from '../api/queries'
import ColourWell from '../parts/ColourWell.vue'
import PhotoPicker from '../parts/PhotoPicker.vue'
import { useWords } from '../words/words'

const props = defineProps<{ colour: ColourView; named: Option[] }>()
const w = useWords()
const id = useId()
const text = ref(props.colour.target)
const name = ref(props.colour.name)
const fault = ref('')
const choices = ref<{ say: string; text: string }[]>([])
const pantry = usePantry()
const lots = computed(() =>
  (pantry.data.value?.shelves ?? []).flatMap((s) => s.lots).filter((l) => l.swatch && /^#/.test(l.swatch)),
)
const saving = useAct((studio, body: { ids: number[]; swatch: string; name: string }) =>
  take(api.POST('/s/{studio}/target', { params: { path: { studio } }, body })),
)
function byName(hex: string) {
  text.value = hex
  name.value = props.named.find((n) => n.code === hex)?.say ?? name.value
}
async function save() {
  fault.value = ''
  choices.value = []
  try {
    await saving.mutateAsync({ ids: props.colour.ids, swatch: text.value, name: name.value })
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not saved.'
    choices.value = (err instanceof Refused && err.problem.fields?.[0]?.choices) || []
  }
}
</script>

<template>
  <section class="part">
    <h3>{{ w('The colour that is wanted') }}</h3>
    <div class="grid">
      <div>
        <label :for="id + 'n'" class="small">Its name</label>
        <InputText :id="id + 'n'" v-model="name" autocomplete="off" fluid />
      </div>
      <div>
        <label :for="id + 's'" class="small">Swatch</label>
        <div class="line">
          <ColourWell :hex="text" label="Swatch" @pick="(hex) => (text = hex)" />
          <InputText
            :id="id + 's'"
            v-model="text"
            :invalid="!!fault"
            :aria-describedby="fault ? id + 'f' : undefined"
            autocomplete="off"
            fluid
          />
        </div>
        <p v-if="fault" :id="id + 'f'" class="danger small" role="alert">{{ fault }}</p>
        <Button
          v-for="c in choices"
          :key="c.text"
          :label="c.say"
          size="small"
          severity="secondary"
          outlined
          @click="text = c.text"
        />
      </div>
      <div>
        <span :id="id + 'o'" class="small">{{ w('A colour of ours') }}</span>
        <Select
          :model-value="null"
          :options="named"
          option-label="say"
          option-value="code"
          placeholder="by its name"
          :aria-labelledby="id + 'o'"
          fluid
          @update:model-value="byName"
        >
          <template #option="{ option }">
            <span class="row"
              ><span class="pat" :style="{ background: option.code }" aria-hidden="true"></span> {{ option.say }}</span
            >
          </template>
        </Select>
      </div>
      <div>
        <span :id="id + 'l'" class="small">As in the pantry</span>
        <Select
          :model-value="null"
          :options="lots"
          option-label="name"
          option-value="swatch"
          placeholder="a lot"
          :aria-labelledby="id + 'l'"
          fluid
          @update:model-value="(hex: string) => (text = hex)"
        />
      </div>
    </div>
    <PhotoPicker @picked="(hex) => (text = hex)" />
    <div><Button :label="w('Take this colour')" size="small" :loading="saving.isPending.value" @click="save" /></div>
  </section>
</template>

<style scoped>
.part {
  border-top: 1px solid var(--linen);
  margin-top: 16px;
  padding-top: 12px;
  display: grid;
  gap: 10px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(220px, 100%), 1fr));
  gap: 10px 16px;
}
.line {
  display: flex;
  gap: 8px;
}
</style>
