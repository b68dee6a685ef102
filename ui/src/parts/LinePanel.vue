<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onBeforeUnmount, reactive, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, take } from '../api/client'
import { useAct, useLine, useStudio, type LineAsked } from '../api/queries'
import BuntingLine from '../pictures/BuntingLine.vue'
import LineReader from './LineReader.vue'
import { usePut } from './linePut'
import LoadState from './LoadState.vue'
import MovedList from './MovedList.vue'
import PickRow from './PickRow.vue'
import TroubleList from './TroubleList.vue'
import WaysOut from './WaysOut.vue'

const props = defineProps<{ commission: number }>()
const studio = useStudio()
const asked = reactive<LineAsked>({ commission: 0, from: '', days: 0, by: '' })
const line = useLine(() => ({ ...asked, commission: props.commission }))
const enough = useAct((s) => take(api.POST('/s/{studio}/line/enough', { params: { path: { studio: s } } })))
// while it is being made it is looked at again and again
const soon = setInterval(() => v.value?.making && void line.refetch(), 500)
onBeforeUnmount(() => clearInterval(soon))
const nights = ref(false)
const looked = ref('')
let held = false
const put = usePut()
// what was touched stays until another one is touched; what the pointer passes over is only read meanwhile
function look(op: string, hold: boolean) {
  if (put.ghost.value && put.ghost.value.op !== op) {
    if (!hold) return
    put.leave()
  }
  if (hold || !held) looked.value = op
  held = hold || held
}
function leave() {
  held = false
  put.leave()
}
const bys = [
  { value: '', says: 'by batch' },
  { value: 'piece', says: 'by piece' },
  { value: 'person', says: 'by person' },
] as const
const spans = [
  { value: 0, says: 'a week' },
  { value: 21, says: 'three' },
  { value: 42, says: 'six' },
]
const v = computed(() => line.data.value)
const before = ref(useRoute().query.before === '1')
const planned = computed(() => !!v.value?.startBy || !!v.value?.decides.length)
// as it hung before it was hung anew
const drawn = computed(() => {
  if (!v.value || !before.value) return v.value
  const was = new Map(v.value.before.map((p) => [p.op, p]))
  const rows = v.value.rows.map((r) => ({
    ...r,
    steps: r.steps.map((s) => {
      const p = was.get(s.op)
      return p ? { ...s, start: Date.parse(p.start), end: Date.parse(p.end) } : s
    }),
  }))
  return { ...v.value, rows }
})
</script>

<template>
  <div class="stack">
    <LoadState :error="line.error.value" :loading="line.isPending.value" @again="line.refetch()" />
    <template v-if="v">
      <p class="quiet">{{ v.says }}</p>
      <div v-if="v.making" class="row making" role="status">
        <span>{{ v.making.says }}</span>
        <progress :value="v.making.share" max="1" aria-label="Of the time it may take"></progress>
        <Button
          v-if="v.making.share"
          label="Take the best so far"
          severity="secondary"
          outlined
          @click="enough.mutate(undefined)"
        />
      </div>
      <TroubleList :troubles="v.troubles" :inside="!!commission" :open="1" />
      <WaysOut v-if="v.troubles.some((t) => t.code === 'late')" />
      <MovedList :moved="v.moved" :why="v.movedWhy" />
      <p v-if="before && v.moved.length" class="soon" role="status">This is the line before: {{ v.movedWhy }}.</p>
      <div class="row how">
        <p v-if="v.from" class="row" role="group" aria-label="Which days">
          <Button label="Earlier" severity="secondary" outlined @click="asked.from = v.earlier" />
          <b>{{ v.shown }}</b>
          <Button label="Later" severity="secondary" outlined @click="asked.from = v.later" />
          <Button v-if="asked.from" label="From today" severity="secondary" text @click="asked.from = ''" />
        </p>
        <PickRow v-if="v.from" v-model="asked.days" label="How many days" :options="spans" />
        <PickRow v-model="asked.by" label="What hangs on one string" :options="bys" />
        <Button
          label="nights long"
          severity="secondary"
          :outlined="!nights"
          :aria-pressed="nights"
          @click="nights = !nights"
        />
        <Button
          v-if="v.moved.length"
          label="as it hung before"
          severity="secondary"
          :outlined="!before"
          :aria-pressed="before"
          @click="before = !before"
        />
      </div>
      <BuntingLine
        v-if="v.sessions.length && v.rows.length && drawn"
        :line="drawn"
        :looked="looked"
        :nights="nights"
        :ghost="put.ghost.value"
        :still="before"
        :class="{ was: before }"
        @look="look"
        @shift="put.shift"
        @drop="put.drop"
        @leave="leave"
      />
      <p v-else-if="v.from && planned" class="quiet">Nothing hangs on these days.</p>
      <LineReader
        v-if="v.sessions.length && v.rows.length"
        :op="looked"
        :ghost="put.ghost.value"
        :look="put.look.value"
        :asking="put.asking.value"
        :wrong="put.wrong.value"
        :still="before"
        @shift="put.shift"
        @drop="put.drop"
        @leave="leave"
        @free="put.free"
      />
      <div v-if="v.rows.length || planned" class="cards">
        <section v-if="v.startBy || !v.troubles.some((t) => t.code === 'late')" class="flour card">
          <h2>{{ v.startBy ? `Planned to ${v.begun ? 'go on' : 'begin'} ${v.startBy}` : 'Nothing left to begin' }}</h2>
          <p v-if="v.couldBy" class="quiet">{{ v.couldBy }}</p>
          <p v-for="k in v.kept" :key="k" class="small">{{ k }}</p>
        </section>
        <section v-if="v.decides.length" class="flour card">
          <h2>What decides</h2>
          <ol class="small">
            <li v-for="d in v.decides" :key="d">{{ d }}</li>
          </ol>
        </section>
      </div>
      <div v-else-if="!v.troubles.length" class="flour card">
        <h2>Nothing to plan yet</h2>
        <p>An order with a hand-over date, pieces with a mould and a weight: then the line hangs itself.</p>
      </div>
      <section v-for="r in v.rows" :key="`${r.commissionId} ${r.title}`" class="flour list">
        <h2>
          <RouterLink v-if="!commission && r.commissionId" :to="`/s/${studio}/commissions/${r.commissionId}/line`">{{
            r.title
          }}</RouterLink>
          <template v-else>{{ r.title }}</template>{{ ' ' }}
          <span class="quiet small">{{ r.handOverSays && `handed over ${r.handOverSays}` }}</span>
        </h2>
        <p v-if="!commission" class="quiet small">
          {{ r.steps.length === 1 ? '1 step' : `${r.steps.length} steps` }} on these days; its own line says each.
        </p>
        <div v-else class="scroll" tabindex="0" role="group" :aria-label="`Steps of ${r.title}`">
          <table class="facts">
            <caption class="vh">
              Steps of
              {{
                r.title
              }}
            </caption>
            <thead>
              <tr>
                <th scope="col">step</th>
                <th scope="col">begins</th>
                <th scope="col">ends</th>
                <th scope="col">takes</th>
                <th scope="col">why not later</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="s in r.steps" :key="s.op" :class="{ wait: !s.attended, done: s.done }">
                <th scope="row">
                  <span class="pat" :style="{ background: s.swatch }" aria-hidden="true"></span> {{ s.title }}
                </th>
                <td>{{ s.startSays }}</td>
                <td>{{ s.endSays }}</td>
                <td>{{ s.lengthSays }}</td>
                <td class="quiet">{{ s.note }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
    </template>
  </div>
</template>

<style scoped>
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(320px, 100%), 1fr));
  gap: 16px;
}
.card,
.list {
  padding: 16px 20px;
}
.making {
  padding: 8px 16px;
  border-radius: 10px;
  background: var(--honey-fill);
}
progress {
  accent-color: var(--honey);
}
.how {
  gap: 8px 18px;
}
.how p {
  margin: 0;
}
.was {
  opacity: 0.6;
}
.scroll {
  overflow-x: auto;
}
tbody th {
  color: var(--ink);
  font-weight: 600;
}
tr.wait th {
  font-weight: 400;
  color: var(--honey);
}
tr.done th {
  text-decoration: line-through;
}
.pat {
  width: 16px;
  height: 11px;
}
td {
  white-space: nowrap;
}
td:last-child {
  white-space: normal;
  min-width: 180px;
}
</style>
