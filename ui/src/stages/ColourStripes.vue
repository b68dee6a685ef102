<script setup lang="ts">
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import { ref, useId, watch } from 'vue'
import { api, Refused, take, type ColourView } from '../api/client'
import { useAct } from '../api/queries'
import WhyNumber from '../parts/WhyNumber.vue'
import RecipeLines from './RecipeLines.vue'

const props = defineProps<{ colour: ColourView }>()
const id = useId()
const fault = ref('')
const parts = ref(props.colour.parts)
watch(
  () => props.colour.parts,
  (now) => (parts.value = now),
)
const act = useAct((s, body: { ids: number[]; with: string[]; parts: string }) =>
  take(api.POST('/s/{studio}/strands', { params: { path: { studio: s } }, body })),
)
const chosen = () => props.colour.beside.filter((c) => c.on).map((c) => c.swatch)
async function set(list: string[], share = '') {
  fault.value = ''
  try {
    await act.mutateAsync({ ids: props.colour.ids, with: list, parts: share })
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not saved.'
  }
}
const toggle = (swatch: string, on: boolean) => set(on ? [...chosen(), swatch] : chosen().filter((s) => s !== swatch))
function share() {
  if (parts.value !== props.colour.parts) void set(chosen(), parts.value)
}
</script>

<template>
  <section class="stripes">
    <h3 :id="id + 'h'">Part-mixed: half kneaded, in stripes with</h3>
    <div class="row" role="group" :aria-labelledby="id + 'h'">
      <span v-for="c in colour.beside" :key="c.swatch" class="tick">
        <Checkbox
          :model-value="c.on"
          binary
          :input-id="id + c.swatch"
          @update:model-value="(on: boolean) => toggle(c.swatch, on)"
        />
        <label :for="id + c.swatch">
          <span class="pat" :class="{ plain: !c.swatch }" :style="{ background: c.swatch }" aria-hidden="true"></span>
          {{ c.name }}
        </label>
      </span>
    </div>
    <p v-if="fault" class="danger small" role="alert">{{ fault }}</p>
    <template v-if="colour.marbled">
      <div class="ropes" aria-hidden="true">
        <span
          v-for="(n, i) in 4 * colour.marbled.ropes.length"
          :key="n"
          :style="{ background: colour.marbled.ropes[i % colour.marbled.ropes.length]?.swatch }"
        ></span>
      </div>
      <p class="small">
        {{ colour.marbled.say }} <WhyNumber :why="colour.marbled.why" of="Stripes" /><br />
        <span class="quiet"
          >From afar
          <span
            class="pat"
            :style="{ background: colour.marbled.far }"
            role="img"
            aria-label="the colour from afar"
          ></span
          >, mixed through
          <span
            class="pat"
            :style="{ background: colour.marbled.solid }"
            role="img"
            aria-label="the colour mixed through"
          ></span
          >.</span
        >
      </p>
      <div v-for="r in colour.marbled.ropes" :key="r.name" class="rope">
        <p>
          <span class="pat" :style="{ background: r.swatch }" aria-hidden="true"></span> <b>{{ r.name }}</b>,
          {{ r.share }}<template v-if="r.total">, {{ r.total }}</template>
        </p>
        <p v-if="r.say" class="soon small">{{ r.say }}</p>
        <RecipeLines v-if="r.recipe" :recipe="r.recipe" :base="colour.base" :total="r.total" />
      </div>
      <label :for="id + 'p'" class="label">Parts of each, its own first</label>
      <InputText
        :id="id + 'p'"
        v-model="parts"
        class="typed"
        :invalid="!!fault"
        autocomplete="off"
        @blur="share"
        @keydown.enter="share"
      />
    </template>
  </section>
</template>

<style scoped>
.stripes {
  border-top: 1px solid var(--linen);
  margin-top: 16px;
  padding-top: 12px;
}
.tick {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
  margin-right: 14px;
}
.plain {
  background: repeating-linear-gradient(45deg, var(--linen) 0 3px, transparent 3px 6px);
}
.ropes {
  display: flex;
  width: min(260px, 100%);
  height: 34px;
  border-radius: 6px;
  overflow: hidden;
  margin: 6px 0;
}
.ropes span {
  flex: 1;
}
.rope p {
  margin: 6px 0 2px;
}
.label {
  display: block;
  font-size: 14px;
  font-weight: 550;
  margin: 8px 0 4px;
}
</style>
