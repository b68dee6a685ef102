<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, reactive, ref, useId } from 'vue'
import { api, take, type ColourView } from '../api/client'
import { usePantry, useStudio } from '../api/queries'
import WhyNumber from '../parts/WhyNumber.vue'
import type { components } from '../api/schema'
import RecipeLines from './RecipeLines.vue'

// What if: a finish over this colour, and tones on the way to another.
const props = defineProps<{ colour: ColourView; commission: number }>()
const studio = useStudio()
const id = useId()
const pantry = usePantry()
const finishes = computed(() => (pantry.data.value?.shelves ?? []).flatMap((s) => s.lots).filter((l) => l.finish))
const rested = computed(() => props.colour.pats.find((p) => p.kind === 'rested')?.hex ?? props.colour.target)
const ask = reactive({ lot: 0, passes: 1, spirit: '1' })
const finish = ref<components['schemas']['FinishView'] | null>(null)
const fault = ref('')
async function look() {
  fault.value = ''
  if (!ask.lot) return
  try {
    finish.value = await take(
      api.GET('/s/{studio}/finish', {
        params: {
          path: { studio: studio.value },
          query: { lot: ask.lot, ground: rested.value, passes: ask.passes, spirit: ask.spirit },
        },
      }),
    )
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It cannot be shown.'
  }
}
const more = (by: number) => {
  ask.passes = Math.min(8, Math.max(0, ask.passes + by))
  void look()
}
const other = reactive({ base: '', grams: '50 g' })
const inOther = ref<components['schemas']['OtherBase'] | null>(null)
const trouble = ref('')
async function tryIn() {
  trouble.value = ''
  if (!other.base) return
  try {
    inOther.value = await take(
      api.GET('/s/{studio}/commissions/{id}/recipe', {
        params: {
          path: { studio: studio.value, id: props.commission },
          query: { target: props.colour.target, base: other.base, grams: other.grams },
        },
      }),
    )
  } catch (err) {
    inOther.value = null
    trouble.value = err instanceof Error ? err.message : 'It cannot be shown.'
  }
}
const tones = reactive({ to: '#F7F5EE', n: '5', grams: '100 g' })
const ladder = ref<components['schemas']['LadderView'] | null>(null)
const wrong = ref('')
async function walk() {
  wrong.value = ''
  try {
    ladder.value = await take(
      api.GET('/s/{studio}/ladder', {
        params: {
          path: { studio: studio.value },
          query: { from: rested.value, to: tones.to, n: Number(tones.n) || 0, grams: tones.grams },
        },
      }),
    )
  } catch (err) {
    wrong.value = err instanceof Error ? err.message : 'It cannot be shown.'
  }
}
const ink = (dark: boolean) => (dark ? '#ffffff' : '#1a1a1a')
</script>

<template>
  <section class="part">
    <h3>A dust, a paint or a glaze over it</h3>
    <div class="row">
      <Select
        v-model="ask.lot"
        :options="finishes"
        option-label="name"
        option-value="id"
        placeholder="from the pantry"
        aria-label="Dust, metal or gel"
        @update:model-value="look"
      />
      <Button label="-" aria-label="One pass fewer" severity="secondary" outlined @click="more(-1)" />
      <b>{{ ask.passes }} {{ ask.passes === 1 ? 'pass' : 'passes' }}</b>
      <Button label="+" aria-label="One pass more" severity="secondary" outlined @click="more(1)" />
      <label :for="id + 's'" class="small">parts of spirit to 1</label>
      <InputText :id="id + 's'" v-model="ask.spirit" class="few" autocomplete="off" @blur="look" />
    </div>
    <p v-if="fault" class="danger small" role="alert">{{ fault }}</p>
    <div v-if="finish" class="shown">
      <span class="big-pat" :style="{ background: rested }"></span>
      <span class="big-pat" :style="{ background: finish.hex, color: ink(finish.dark) }"></span>
      <div>
        <b>{{ finish.say }}</b> <WhyNumber :why="finish.why" :of="finish.say" />
        <p class="small">{{ finish.covers }}</p>
        <p v-if="finish.flash" class="small">
          In glancing light <span class="pat" :style="{ background: finish.flash }" aria-hidden="true"></span>
          {{ finish.flash }}
        </p>
        <p v-if="finish.mix" class="small">{{ finish.mix }}</p>
        <p v-for="o in finish.order" :key="o" class="small quiet">{{ o }}</p>
        <p v-if="finish.eats" class="small soon">{{ finish.eats }}</p>
      </div>
    </div>
    <h3>The same in another base</h3>
    <form class="row" @submit.prevent="tryIn">
      <Select
        v-model="other.base"
        :options="colour.bases"
        option-label="say"
        option-value="code"
        placeholder="a base or a tub"
        aria-label="Base"
        @update:model-value="tryIn"
      />
      <InputText v-model="other.grams" class="hex" aria-label="How much of it" autocomplete="off" @blur="tryIn" />
    </form>
    <p v-if="trouble" class="danger small" role="alert">{{ trouble }}</p>
    <div v-if="inOther">
      <p v-if="inOther.says" class="soon small">{{ inOther.says }}</p>
      <div class="row">
        <span class="pat" :style="{ background: inOther.recipe.hex }" aria-hidden="true"></span>
        <RecipeLines :recipe="inOther.recipe" :base="inOther.base" :total="other.grams" />
      </div>
    </div>
    <h3>Tones from it to another</h3>
    <form class="row" @submit.prevent="walk">
      <label :for="id + 't'" class="small">to</label>
      <InputText :id="id + 't'" v-model="tones.to" class="hex" autocomplete="off" />
      <label :for="id + 'n'" class="small">in</label>
      <InputText :id="id + 'n'" v-model="tones.n" class="few" autocomplete="off" />
      <label :for="id + 'g'" class="small">tones of</label>
      <InputText :id="id + 'g'" v-model="tones.grams" class="hex" autocomplete="off" />
      <Button type="submit" label="Show them" size="small" severity="secondary" outlined />
    </form>
    <p v-if="wrong" class="danger small" role="alert">{{ wrong }}</p>
    <template v-if="ladder">
      <div class="ladder">
        <div v-for="(s, i) in ladder.shades" :key="i" :style="{ background: s.hex, color: ink(s.dark) }">
          {{ s.from.text }} of this<br />{{ s.to.text }} of the other
        </div>
      </div>
      <p class="small quiet">{{ ladder.step }}</p>
    </template>
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
.p-button {
  min-width: 44px;
}
.few {
  width: 76px;
}
.hex {
  width: 120px;
}
.shown {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  background: #c3c3c3;
  color: #1a1a1a;
  border-radius: 8px;
  padding: 14px;
}
.shown .quiet,
.shown .soon {
  color: #1a1a1a;
}
.shown :deep(button.link) {
  color: #1a1a1a;
}
.shown p {
  margin: 2px 0;
}
.big-pat {
  width: 110px;
  height: 78px;
  border-radius: 50% / 46%;
  display: grid;
  place-items: center;
  font-weight: 600;
  font-size: 13px;
}
.ladder {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(92px, 1fr));
  border-radius: 8px;
  overflow: hidden;
}
.ladder div {
  padding: 12px 8px;
  font-size: 12.5px;
}
</style>
