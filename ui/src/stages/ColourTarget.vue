<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref, useId } from 'vue'
import { api, take, type ColourView, type CommissionView, type Option } from '../api/client'
import { useAct, usePantry } from '../api/queries'
import PhotoPicker from '../parts/PhotoPicker.vue'
import { useWords } from '../words/words'

const props = defineProps<{ colour: ColourView; commission: CommissionView; named: Option[] }>()
const w = useWords()
const id = useId()
const text = ref(props.colour.target)
const name = ref(props.colour.name)
const fault = ref('')
const pantry = usePantry()
const lots = computed(() =>
  (pantry.data.value?.shelves ?? []).flatMap((s) => s.lots).filter((l) => l.swatch && /^#/.test(l.swatch)),
)
const saving = useAct(async (studio, set: Record<string, string>) => {
  for (const piece of props.colour.ids) {
    const row = props.commission.pieces.find((p) => p.id === piece)
    if (row)
      await take(
        api.POST('/s/{studio}/rows/{kind}/{id}', {
          params: { path: { studio, kind: 'pieces', id: piece } },
          body: { version: row.version, set },
        }),
      )
  }
})
function byName(hex: string) {
  text.value = hex
  name.value = props.named.find((n) => n.code === hex)?.say ?? name.value
}
async function save() {
  fault.value = ''
  try {
    await saving.mutateAsync({ swatch: text.value, colour: name.value })
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not saved.'
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
          <input
            type="color"
            class="well"
            :value="/^#[0-9a-f]{6}$/i.test(text) ? text.toLowerCase() : '#f7f2e6'"
            aria-label="Swatch, picked"
            @change="(e) => (text = (e.target as HTMLInputElement).value.toUpperCase())"
          />
          <InputText :id="id + 's'" v-model="text" :invalid="!!fault" autocomplete="off" fluid />
        </div>
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
    <p v-if="fault" class="danger small" role="alert">{{ fault }}</p>
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
.well {
  width: 48px;
  height: 44px;
  padding: 3px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--flour);
  flex: none;
}
</style>
