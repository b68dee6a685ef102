<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { api, Refused, take, type CommissionView, type DustMixView, type Pass } from '../api/client'
import { useTones } from '../api/ending'
import { useStudio } from '../api/queries'
import KeptInput from '../parts/KeptInput.vue'
import FieldInput from '../parts/FieldInput.vue'
import { useSaving } from '../parts/saving'
import WhyNumber from '../parts/WhyNumber.vue'
import FadePicture from '../pictures/FadePicture.vue'
import TonesPicture from '../pictures/TonesPicture.vue'
import { usePiece } from './pieceChoice'
import StageFrame from './StageFrame.vue'

const props = defineProps<{ commission: CommissionView }>()
const { row, piece, read, choose } = usePiece(() => props.commission)
const studio = useStudio()
const finish = computed(() => piece.value?.finish)
const saving = useSaving(() => ({ kind: 'pieces', id: piece.value?.id ?? 0, version: piece.value?.version ?? 0 }))
const tones = useTones()
const fault = ref('')
const kept = computed<Pass[]>(() =>
  [...(finish.value?.tones ?? [])]
    .sort((a, b) => a.at - b.at)
    .map((t) => ({ role: t.role, lots: t.lots, percent: t.percent, times: t.times })),
)
// one after the other: a quick second press is made from what the first left
let last: Promise<boolean> = Promise.resolve(true)
const put = (edit: (now: Pass[]) => Pass[]) => (last = last.then(() => send(edit)))
async function send(edit: (now: Pass[]) => Pass[]) {
  fault.value = ''
  try {
    await tones.mutateAsync({
      id: piece.value?.id ?? 0,
      version: piece.value?.version ?? 0,
      passes: edit(kept.value),
    })
    return true
  } catch (err) {
    fault.value =
      err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not saved: try again.'
    return false
  }
}
const change = (at: number, set: Partial<Pass>) => put((now) => now.map((p, i) => (i === at ? { ...p, ...set } : p)))
const takeOff = (at: number) => put((now) => now.filter((_, i) => i !== at))
const numberIn = (typed: string) => Number(typed.replace(',', '.'))
// a new tone: where, of which dust or of which colour
const role = ref('base')
const dust = ref(0)
const target = ref('')
const mixes = ref<DustMixView[]>([])
const mixFault = ref('')
watch(
  () => finish.value?.dusts,
  (d) => {
    if (d && !d.some((x) => x.id === dust.value)) dust.value = d.find((x) => !x.refused)?.id ?? 0
  },
  { immediate: true },
)
watch(
  () => piece.value?.id,
  () => (mixes.value = []),
)
async function mix() {
  mixFault.value = ''
  mixes.value = []
  try {
    mixes.value = await take(
      api.GET('/s/{studio}/pieces/{id}/tones/mix', {
        params: {
          path: { studio: studio.value, id: piece.value?.id ?? 0 },
          query: { target: target.value },
        },
      }),
    )
  } catch (err) {
    mixFault.value =
      err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'No mix was found: try again.'
  }
}
async function add(lots: Pass['lots']) {
  const usual = finish.value?.roles.find((r) => r.code === role.value)
  const tone = { role: role.value, lots, percent: usual?.percent ?? 0, times: usual?.times ?? 0 }
  return put((now) => [...now, tone])
}
async function takeMix(lots: Pass['lots']) {
  const typed = target.value
  if (!(await add(lots))) return
  mixes.value = []
  if (target.value === typed) target.value = '' // what was typed meanwhile stays
}
</script>

<template>
  <StageFrame :commission="commission" :row="row" :read="read" @choose="choose">
    <template v-if="finish">
      <div v-if="!finish.fade" class="top">
        <TonesPicture :finish="finish" :name="piece?.name ?? ''" />
        <div class="grow">
          <p v-if="!finish.tones.length" class="quiet">
            Nothing comes on to it yet: it stays as its paste is. Add a tone below, light ones and dark ones; their
            order follows.
          </p>
          <p v-if="finish.minutes">
            <b>{{ finish.minutes.text }}</b> {{ finish.minutes.unit }}
            <WhyNumber :why="finish.minutes.why" of="Minutes of finishing" />
          </p>
          <ul v-if="finish.grams.length" class="list">
            <li v-for="g in finish.grams" :key="g.unit">
              <b>{{ g.text }}</b> of {{ g.unit }} <WhyNumber :why="g.why" :of="g.unit" />
            </li>
          </ul>
          <p class="quiet small">{{ finish.areaSays }}</p>
          <p v-for="x in finish.warnings" :key="x" class="soon">{{ x }}</p>
        </div>
      </div>
      <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
      <ol v-if="finish.tones.length" class="passes plain" aria-label="Tones in their order">
        <li v-for="t in finish.tones" :key="t.at">
          <span class="pots" aria-hidden="true"
            ><i :style="{ background: t.pot }" /><i :style="{ background: t.look }" /><i
              v-if="t.flash"
              :style="{ background: t.flash }"
          /></span>
          <div class="grow">
            <p>
              <b>{{ t.mix || 'a tone without its dust' }}</b> {{ t.says }}
            </p>
            <p v-if="t.missing" class="danger">{{ t.missing }}</p>
            <p v-else class="quiet small">
              {{ t.sheen }}<template v-if="t.minutes"> · {{ t.minutes }}</template>
            </p>
          </div>
          <label class="small"
            >covers
            <KeptInput
              :value="t.percent"
              inputmode="decimal"
              size="3"
              @change="(typed) => change(t.at, { percent: numberIn(typed) })"
            />
            %</label
          >
          <label class="small"
            ><KeptInput
              :value="t.times"
              inputmode="numeric"
              size="2"
              @change="(typed) => change(t.at, { times: numberIn(typed) })"
            />
            {{ t.kind === 'metal' ? 'coats wanted' : 'passes' }}</label
          >
          <button type="button" class="link" :aria-label="`Take off ${t.mix} ${t.says}`" @click="takeOff(t.at)">
            take off
          </button>
        </li>
      </ol>
      <section v-if="!finish.fade" class="add" aria-label="Add a tone">
        <h3>Add a tone</h3>
        <div class="rowline plain">
          <label
            >Where
            <select v-model="role">
              <option v-for="r in finish.roles" :key="r.code" :value="r.code">{{ r.say }}</option>
            </select></label
          >
          <label v-if="finish.dusts.length"
            >Dust or paint
            <select v-model="dust">
              <option v-for="d in finish.dusts" :key="d.id" :value="d.id" :disabled="!!d.refused">
                {{ d.name }}{{ d.refused ? ` (${d.refused})` : '' }}
              </option>
            </select></label
          >
          <Button v-if="dust" severity="secondary" label="Add it" @click="add([{ lot: dust, parts: 1 }])" />
        </div>
        <p v-if="!finish.dusts.length" class="quiet">
          There is no dust in the pantry.
          <RouterLink :to="`/s/${studio}/pantry`">Add one with its swatch</RouterLink>.
        </p>
        <form v-else class="rowline plain" @submit.prevent="mix">
          <label
            >or mix a colour
            <input v-model="target" size="14" placeholder="moss, #7F8F4A" aria-label="Colour to mix from dusts" />
          </label>
          <Button type="submit" severity="secondary" label="Find a mix" :disabled="!target.trim()" />
        </form>
        <p v-if="mixFault" class="danger" role="alert">{{ mixFault }}</p>
        <ul v-if="mixes.length" class="mixes" aria-label="Mixes">
          <li v-for="m in mixes" :key="m.says">
            <span class="pots" aria-hidden="true"><i :style="{ background: m.hex }" /></span>
            <span class="grow"
              ><b>{{ m.says }}</b> <span class="quiet small">{{ m.reach }}, {{ m.distance }} {{ m.sheen }}</span></span
            >
            <Button severity="secondary" size="small" label="Take this" @click="takeMix(m.lots)" />
          </li>
        </ul>
      </section>
      <section v-if="finish.lock" class="lock" aria-label="What fixes it">
        <h3>What fixes it</h3>
        <p>
          <b>{{ finish.lock.says }}</b>
        </p>
        <p v-for="c in finish.lock.cautions" :key="c" class="soon">{{ c }}</p>
        <div class="rowline plain">
          <FieldInput
            v-for="f in finish.fields"
            :key="f.name"
            :field="f"
            :error="saving.errors[f.name]"
            @save="(t) => saving.save({ [f.name]: t })"
          />
        </div>
        <p v-if="finish.lock.others.length" class="quiet">It would also do: {{ finish.lock.others.join(', ') }}.</p>
        <ul class="list quiet small">
          <li v-for="r in finish.lock.refused" :key="r.what">{{ r.what }}: {{ r.why }}</li>
        </ul>
      </section>
      <section v-if="finish.fade" class="lock" aria-label="The fade">
        <h3>The fade</h3>
        <FadePicture :fade="finish.fade" :swatch="piece?.swatch ?? '#888'" />
        <p>
          <b>{{ finish.fade.drops.text }} {{ finish.fade.drops.unit }}</b>
          <WhyNumber :why="finish.fade.drops.why" of="Drops of colour" />. {{ finish.fade.says }}
        </p>
        <p>{{ finish.fade.rounds }} {{ finish.fade.advice }}</p>
        <p class="quiet">Spray one scrap and say what was seen: it stands in place of the usual pattern.</p>
        <div class="rowline plain">
          <FieldInput
            v-for="f in finish.fade.fields"
            :key="f.name"
            :field="f"
            :error="saving.errors[f.name]"
            @save="(t) => saving.save({ [f.name]: t })"
          />
        </div>
      </section>
    </template>
  </StageFrame>
</template>

<style scoped>
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
  align-items: flex-start;
}
.grow {
  flex: 1 1 220px;
  min-width: 0;
}
.grow p {
  margin: 2px 0;
}
.list {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
.passes,
.mixes {
  list-style: none;
  padding: 0;
  margin: 12px 0;
}
.passes li,
.mixes li {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  padding: 8px 0;
  border-top: 1px solid var(--linen);
}
.pots {
  display: inline-flex;
}
.pots i {
  width: 26px;
  height: 32px;
  border: 1px solid var(--linen);
  border-radius: 4px;
  margin-right: 3px;
}
.lock,
.add {
  border-top: 1px solid var(--linen);
  padding-top: 10px;
  margin-top: 14px;
}
</style>
