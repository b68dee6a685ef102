<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { type BenchView, type Tally } from '../api/client'
import { heard, left, useClock } from '../api/clock'
import { useHandsActs, type Did } from '../api/hands'
import { useKeptHands } from '../api/keptHands'
import { keptMore, waiting } from '../api/outbox'
import { inHand, useBench, useStudio } from '../api/queries'
import { useAwake } from '../parts/awake'
import BrokeDialog from '../parts/BrokeDialog.vue'
import CalledOff from '../parts/CalledOff.vue'
import EndingList from '../parts/EndingList.vue'
import FreeMinutes from '../parts/FreeMinutes.vue'
import HandsKeys from '../parts/HandsKeys.vue'
import OfferRow from '../parts/OfferRow.vue'
import WhoseHands from '../parts/WhoseHands.vue'
import { useKeys } from '../parts/keys'
import TroubleList from '../parts/TroubleList.vue'
import LoadState from '../parts/LoadState.vue'
import HeatDialog from '../parts/HeatDialog.vue'
import ScaleDialog from '../parts/ScaleDialog.vue'
import MovedList from '../parts/MovedList.vue'
import NotDue from '../parts/NotDue.vue'
import WaitList from '../parts/WaitList.vue'
import StepChecks from '../parts/StepChecks.vue'
import StepFace from '../parts/StepFace.vue'
import TallyCard from '../parts/TallyCard.vue'
import ToolTorn from '../parts/ToolTorn.vue'
import TimerDialog from '../parts/TimerDialog.vue'
import MarkedPhoto from '../pictures/MarkedPhoto.vue'
import { allowSound } from '../parts/sound'
import { useTurns } from '../parts/turns'
import TimerList from '../parts/TimerList.vue'

const studio = useStudio()
const router = useRouter()
const bench = useBench()
const v = computed(() => bench.data.value)
const now = useClock()
const asleep = useAwake()
const fault = ref('')
const told = ref('')

// What hands are at stays on the screen until it is done: a mould that becomes
// ready meanwhile rings, it does not change the step under the hands.
const pinned = ref<{ op: string; version: number; view: BenchView }>()
const pin = (b?: BenchView) => (pinned.value = b?.now && { op: b.now.op, version: b.now.version, view: b })
watch(
  v,
  (b) => {
    if (!b) return
    heard(b.clockMs)
    const p = pinned.value
    const still = p && [...b.evening, ...(b.now ? [b.now] : [])].some((s) => s.op === p.op && s.version === p.version)
    if (!p || !still || p.view.move?.do === 'wait' || (inHand.value && b.now?.op === inHand.value)) pin(b)
  },
  { immediate: true },
)
const step = computed(() => pinned.value?.view.now)
const move = computed(() => pinned.value?.view.move)
const photo = computed(() => pinned.value?.view.photo)
const other = computed(() => v.value?.now && v.value.now.op !== pinned.value?.op)
const tally = computed(() => v.value?.tallies.find((t) => t.pieceId === step.value?.pieceId))
const { kept, keptSays, full, counted } = useKeptHands(step, move, tally)
watch(waiting, (n) => n === 0 && (fault.value = '')) // what it said was kept is sent
const waitLeft = computed(() => (move.value?.do === 'wait' ? left(move.value.atMs - now.value) : ''))
watch(waitLeft, (w) => w.startsWith('-') && void bench.refetch())

const { hands, takeBack, countBy, broke, more, stop, looked } = useHandsActs()
const inTurn = useTurns()
const act = (key: string, what: () => Promise<BenchView>, says = '') =>
  void inTurn(key, async () => {
    void allowSound()
    fault.value = told.value = ''
    try {
      await what()
      told.value = says
    } catch (err) {
      fault.value = err instanceof Error ? err.message : 'It was not marked.'
    }
    pin(v.value) // what hands were at is done
  })
function done() {
  const p = pinned.value
  if (!p || move.value?.do === 'wait' || full.value) return
  const d = move.value?.do ?? ''
  act(`${p.op} ${p.version}`, () => hands.mutateAsync({ op: p.op, version: p.version, do: d as Did }))
}
function open() {
  const p = pinned.value
  if (p && !kept.value)
    act(`${p.op} ${p.version}`, () => hands.mutateAsync({ op: p.op, version: p.version, do: 'open' }))
}
function back() {
  const last = v.value?.lastSays
  const who = v.value?.lastWho
  const entry = v.value?.lastId ?? 0
  if (last) act(`back ${entry}`, () => takeBack.mutateAsync(entry), `Taken back: ${last}. (${who})`)
}
const count = (by: number) => {
  const t = tally.value
  if (t) act(`count ${t.op} ${t.version}`, () => countBy.mutateAsync({ op: t.op, version: t.version, by }))
}
const asking = ref<'' | 'timer' | 'broke' | 'scale' | 'heat'>('')
// what is weighed: the press under the hands, else the one begun last
const weighs = computed(() => (step.value?.planned.run ? step.value.op : (v.value?.tallies.at(-1)?.op ?? '')))
const breakable = computed(() => (v.value?.tallies ?? []).filter((t) => t.made > t.broken))
function askBroke() {
  if (!breakable.value.length) {
    fault.value = 'There is no whole piece yet that could break.'
    return
  }
  asking.value = 'broke'
}
function sayBroke(t: Tally, why: string) {
  asking.value = ''
  act(`broke ${t.op} ${t.version}`, () => broke.mutateAsync({ op: t.op, version: t.version, why }))
}
function enough() {
  const t = tally.value
  if (t) act(`enough ${t.op} ${t.version}`, () => stop.mutateAsync({ op: t.op, version: t.version }))
}
function showIt() {
  pinned.value = undefined
  void bench.refetch()
}
// a touched button gives the keys back, so that Space is the step's again
function letGo(e: MouseEvent) {
  if (e.detail > 0 && document.activeElement instanceof HTMLButtonElement) document.activeElement.blur()
}
// the version is taken when its turn comes: a quick second tick is made after the first
const look = (check: string, well?: boolean, then?: () => void) =>
  act(`look ${step.value?.op} ${check} ${well}`, async () => {
    const s = step.value
    const bench = await looked.mutateAsync({ op: s?.op ?? '', version: s?.version ?? 0, check, well })
    then?.()
    return bench
  })
const failed = (check: string) => look(check, false, rescue)
const rescue = () =>
  step.value?.pieceId && void router.push({ path: `/s/${studio.value}/rescue`, query: { op: step.value.op } })
const leave = () => void router.push(`/s/${studio.value}/bench`)
useKeys({
  ' ': done,
  Backspace: back,
  t: () => (asking.value = 'timer'),
  w: () => weighs.value && (asking.value = 'scale'),
  h: () => step.value?.planned.heat && (asking.value = 'heat'),
  '+': () => count(1),
  '-': () => count(-1),
  x: askBroke,
  r: rescue,
  Escape: leave,
})
const doneWord = computed(() => (move.value ? move.value.done : step.value?.planned.done) || 'Done')
</script>

<template>
  <div class="hands" @click="letGo">
    <LoadState :error="v ? null : bench.error.value" :loading="bench.isPending.value" @again="bench.refetch()" />
    <template v-if="v">
      <header class="row top">
        <h1>{{ v.heading }}</h1>
        <span class="quiet">{{ v.until }}</span>
        <WhoseHands :people="v.people" />
        <span class="right row"
          ><Button label="Leave" severity="secondary" outlined class="tall" @click="leave" /> <kbd>Esc</kbd></span
        >
      </header>
      <p v-if="asleep" class="quiet small note">
        This browser does not keep the screen awake: set the screen to stay on.
      </p>
      <TroubleList :troubles="v.troubles" :open="1" />
      <MovedList :moved="v.moved" :why="v.movedWhy" />
      <div class="two">
        <section v-if="step" class="flour now" aria-live="polite">
          <p class="quiet">
            {{ step.commission }}<template v-if="step.piece"> · {{ step.piece }}</template>
          </p>
          <p v-if="step.guests" class="guests">{{ step.guests }}</p>
          <p v-if="inHand === step.op" class="soon">
            Planned for {{ step.startSays }}, taken earlier.
            <Button label="Leave it" severity="secondary" text class="tall" @click="inHand = ''" />
          </p>
          <StepFace :step="step" :move="move" :kept="keptSays" :left="waitLeft" />
          <StepChecks v-if="step.checks.length" :step="step" @looked="look" @failed="failed" />
          <p v-if="told" class="quiet" role="status">{{ told }}</p>
          <p v-if="other" class="soon">
            Meanwhile: {{ v.now?.title }}.
            <Button label="Show it" severity="secondary" outlined class="tall" @click="showIt" />
          </p>
          <div class="row acts">
            <p v-if="fault" class="danger line" role="alert">{{ fault }}</p>
            <Button
              :label="doneWord"
              class="do"
              :disabled="move?.do === 'wait' || full"
              :loading="hands.isPending.value"
              @click="done"
            />
            <kbd>Space</kbd>
            <Button
              v-if="move?.do === 'wait'"
              label="Open it all the same"
              severity="secondary"
              outlined
              class="tall"
              :disabled="kept > 0"
              @click="open"
            />
            <CalledOff :bench="v" :op="step.op" :version="step.version" :kept="kept > 0" />
          </div>
          <template v-if="move?.do === 'wait' && v.offers.length">
            <p class="quiet">While it is in the freezer, your hands could:</p>
            <OfferRow v-for="o in v.offers" :key="o.op" :step="o" @take="(s) => (inHand = s.op)" />
          </template>
        </section>
        <div v-else class="stack">
          <NotDue :bench="v" :fault="fault" @take="(s) => (inHand = s.op)" />
          <p v-if="told" class="quiet" role="status">{{ told }}</p>
        </div>
        <aside class="stack">
          <TallyCard v-if="tally" :tally="tally" :kept="counted" @count="count" @broke="askBroke" @enough="enough" />
          <template v-for="t in v.tallies" :key="t.pieceId">
            <Button
              v-if="t.more && t.again"
              :label="`Make ${t.more} more: ${t.name}`"
              :disabled="keptMore(t.pieceId)"
              class="tall"
              @click="act(`more ${t.pieceId}`, () => more.mutateAsync({ id: t.pieceId, n: t.more }))"
            />
          </template>
          <TimerList :timers="v.timers" />
          <section v-if="photo" class="flour list" aria-label="The tool">
            <MarkedPhoto :photo="photo" />
            <p v-for="s in photo.says" :key="s">{{ s }}</p>
          </section>
          <ToolTorn v-if="v.tool" :tool="v.tool" @told="(w) => (told = w)" @fault="(w) => (fault = w)" />
          <HandsKeys
            :bench="v"
            :ways="{
              rescue: !!step?.pieceId,
              broke: !tally && breakable.length > 0,
              scale: !!weighs,
              heat: !!step?.planned.heat,
            }"
            @timer="asking = 'timer'"
            @rescue="rescue"
            @broke="askBroke"
            @scale="asking = 'scale'"
            @heat="asking = 'heat'"
            @back="back"
          />
          <section v-if="v.layOut.length" class="flour list">
            <h2>Lay out first</h2>
            <ul>
              <li v-for="x in v.layOut" :key="x">{{ x }}</li>
            </ul>
          </section>
          <EndingList :ending="v.ending" />
          <WaitList :waiting="v.waiting" />
          <section v-if="step">
            <h2 class="quiet side">Next for your hands</h2>
            <p v-for="n in v.next" :key="n.op" class="next">
              <span>{{ n.title }}</span> <span class="quiet">{{ n.startSays }}</span>
            </p>
          </section>
          <FreeMinutes @take="(s) => (inHand = s.op)" />
        </aside>
      </div>
      <HeatDialog
        v-if="step?.planned.heat"
        :op="step.op"
        :cautions="step.cautions"
        :visible="asking === 'heat'"
        @update:visible="asking = ''"
      />
      <ScaleDialog
        :op="weighs"
        :version="step?.op === weighs ? step.version : 0"
        :swatch="step?.planned.swatch"
        :visible="asking === 'scale'"
        @update:visible="asking = ''"
      />
      <BrokeDialog
        :visible="asking === 'broke'"
        :breakable="breakable"
        :first="tally?.pieceId"
        :reasons="v.reasons"
        @update:visible="asking = ''"
        @broke="sayBroke"
      />
      <TimerDialog :visible="asking === 'timer'" @update:visible="asking = ''" />
    </template>
  </div>
</template>

<style scoped>
.hands :deep(.free button) {
  min-height: 64px;
}
.hands {
  min-height: 100vh;
  padding: 14px 22px 30px;
  display: grid;
  gap: 10px;
  align-content: start;
}
.hands :deep(.p-button) {
  min-height: 64px;
}
.top {
  gap: 10px 18px;
}
.right {
  margin-left: auto;
}
.note {
  margin: 0;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(320px, 1fr);
  gap: 22px;
}
.now {
  padding: 20px 28px 24px;
  align-self: start;
}
.now > p:first-child {
  margin-top: 0;
}
.do {
  min-height: 84px;
  min-width: 260px;
  font-size: 24px;
}
.line {
  flex: 1 0 100%;
  margin: 0;
}
.list {
  padding: 12px 18px;
}
.list ul {
  margin: 6px 0;
  padding-left: 20px;
}
.list li {
  padding: 3px 0;
}
.side {
  font:
    500 14px 'Figtree Variable',
    sans-serif;
}
.next {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  border-top: 1px solid var(--linen);
  padding: 8px 0;
  margin: 0;
}
@media (max-width: 900px) {
  .hands {
    padding: 10px 12px 24px;
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .two > aside {
    display: contents;
  }
  .rings {
    order: -1;
  }
  .now {
    padding: 14px 16px 18px;
  }
  .do {
    width: 100%;
  }
  .acts {
    position: sticky;
    bottom: 0;
    background: var(--flour);
    padding: 8px 0;
  }
  .acts kbd {
    display: none;
  }
}
</style>
