<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, person, setPerson, take, type BenchView } from '../api/client'
import { heard, left, useClock } from '../api/clock'
import { keptMore, keptOf, waiting } from '../api/outbox'
import { useBench, useBenchAct, useStudio } from '../api/queries'
import { useAwake } from '../parts/awake'
import { useKeys } from '../parts/keys'
import LoadState from '../parts/LoadState.vue'
import ScaleDialog from '../parts/ScaleDialog.vue'
import MovedList from '../parts/MovedList.vue'
import MarkedPhoto from '../pictures/MarkedPhoto.vue'
import { allowSound } from '../parts/sound'
import { useTurns } from '../parts/turns'
import TimerList from '../parts/TimerList.vue'
import WhyNumber from '../parts/WhyNumber.vue'

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
    if (!p || !still || p.view.move?.do === 'wait' || p.view.opens) pin(b)
  },
  { immediate: true },
)
const step = computed(() => pinned.value?.view.now)
const move = computed(() => pinned.value?.view.move)
const photo = computed(() => pinned.value?.view.photo)
const other = computed(() => v.value?.now && v.value.now.op !== pinned.value?.op)
const tally = computed(() => v.value?.tallies.find((t) => t.pieceId === step.value?.pieceId))
// while the server is away: what is kept here, and what hands may go on with. A ball pressed and turned out at once may
// follow a ball; what begins a wait, or ends a step, is kept once.
const kept = computed(() => keptOf(step.value?.op ?? '').presses)
const keptSays = computed(() => {
  const m = move.value
  if (!kept.value) return ''
  if (m?.do === 'pressOut' && m.n + kept.value <= m.of) return `${kept.value} kept, ball ${m.n + kept.value} next`
  return `${kept.value} kept: sent when the server answers`
})
const full = computed(() => {
  const m = move.value
  return kept.value > 0 && !(m?.do === 'pressOut' && m.n + kept.value <= m.of)
})
const counted = computed(() => {
  const k = keptOf(tally.value?.op ?? '')
  const by = k.by ? `count ${k.by > 0 ? '+' : '−'}${Math.abs(k.by)}` : ''
  return [by, k.broke && `${k.broke} broke`].filter(Boolean).join(', ')
})
watch(waiting, (n) => n === 0 && (fault.value = '')) // what it said was kept is sent
const waitLeft = computed(() => (move.value?.do === 'wait' ? left(move.value.atMs - now.value) : ''))
watch(waitLeft, (w) => w.startsWith('-') && void bench.refetch())

const hands = useBenchAct((s, x: { op: string; version: number; do: '' | 'press' | 'pressOut' | 'open' }) =>
  take(
    api.POST('/s/{studio}/bench/{op}/hands/{version}', {
      params: { path: { studio: s, op: x.op, version: x.version }, query: { do: x.do } },
    }),
  ),
)
const takeBack = useBenchAct((s, entry: number) =>
  take(api.POST('/s/{studio}/bench/takeBack/{entry}', { params: { path: { studio: s, entry } } })),
)
const countBy = useBenchAct((s, x: { op: string; version: number; by: number }) =>
  take(api.POST('/s/{studio}/bench/{op}/count/{version}/{by}', { params: { path: { studio: s, ...x } } })),
)
const broke = useBenchAct((s, x: { op: string; version: number; why: string }) =>
  take(api.POST('/s/{studio}/bench/{op}/broke/{version}/{why}', { params: { path: { studio: s, ...x } } })),
)
const more = useBenchAct((s, x: { id: number; n: number }) =>
  take(api.POST('/s/{studio}/pieces/{id}/more/{n}', { params: { path: { studio: s, ...x } } })),
)
const timer = useBenchAct((s, x: { minutes: string; says: string }) =>
  take(api.POST('/s/{studio}/timers', { params: { path: { studio: s } }, body: x })),
)
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
  act(`${p.op} ${p.version}`, () =>
    hands.mutateAsync({ op: p.op, version: p.version, do: d as '' | 'press' | 'pressOut' | 'open' }),
  )
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
const asking = ref<'' | 'timer' | 'broke' | 'scale'>('')
// what is weighed: the press under the hands, else the one begun last
const weighs = computed(() => (step.value?.planned.run ? step.value.op : (v.value?.tallies.at(-1)?.op ?? '')))
const which = ref(0)
const breakable = computed(() => (v.value?.tallies ?? []).filter((t) => t.made > t.broken))
function askBroke() {
  if (!breakable.value.length) {
    fault.value = 'There is no whole piece yet that could break.'
    return
  }
  which.value = (tally.value && tally.value.made > tally.value.broken ? tally.value : breakable.value[0])?.pieceId ?? 0
  asking.value = 'broke'
}
function sayBroke(why: string) {
  const t = breakable.value.find((x) => x.pieceId === which.value)
  asking.value = ''
  if (t) act(`broke ${t.op} ${t.version}`, () => broke.mutateAsync({ op: t.op, version: t.version, why }))
}
const minutes = ref('')
const about = ref('')
const timerFault = ref('')
async function startTimer(m: string) {
  timerFault.value = ''
  try {
    await timer.mutateAsync({ minutes: m, says: about.value })
    asking.value = minutes.value = about.value = ''
  } catch (err) {
    timerFault.value = err instanceof Error ? err.message : 'It was not started.'
  }
}
function showIt() {
  pinned.value = undefined
  void bench.refetch()
}
// a touched button gives the keys back, so that Space is the step's again
function letGo(e: MouseEvent) {
  if (e.detail > 0 && document.activeElement instanceof HTMLButtonElement) document.activeElement.blur()
}
const leave = () => void router.push(`/s/${studio.value}/bench`)
useKeys({
  ' ': done,
  Backspace: back,
  t: () => (asking.value = 'timer'),
  w: () => weighs.value && (asking.value = 'scale'),
  '+': () => count(1),
  '-': () => count(-1),
  x: askBroke,
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
        <span v-if="v.people.length > 1" class="row people" role="group" aria-label="Who is at the bench">
          <Button
            v-for="p in v.people"
            :key="p"
            :label="p"
            :outlined="person !== p"
            :aria-pressed="person === p"
            severity="secondary"
            class="who"
            @click="setPerson(person === p ? '' : p)"
          />
        </span>
        <span class="right row"
          ><Button label="Leave" severity="secondary" outlined class="tall" @click="leave" /> <kbd>Esc</kbd></span
        >
      </header>
      <p v-if="asleep" class="quiet small note">
        This browser does not keep the screen awake: set the screen to stay on.
      </p>
      <p v-for="l in v.late" :key="l" class="danger note" role="alert">
        <b>{{ l }}</b>
      </p>
      <MovedList :moved="v.moved" :why="v.movedWhy" />
      <div class="two">
        <section v-if="step" class="flour now" aria-live="polite">
          <p class="quiet">
            {{ step.commission }}<template v-if="step.piece"> · {{ step.piece }}</template>
          </p>
          <p v-if="pinned?.view.opens" class="soon">Planned for {{ pinned.view.opens }}</p>
          <template v-if="move">
            <h2 class="step">{{ move.say }}</h2>
            <p class="sub">{{ move.sub }}</p>
            <p v-if="keptSays" class="sub soon" role="status">{{ keptSays }}</p>
            <ol v-if="move.steps.length" class="round">
              <li v-for="s in move.steps" :key="s">{{ s }}</li>
            </ol>
            <p v-if="move.do === 'wait'" class="huge" role="timer">{{ waitLeft }}</p>
            <p v-else class="huge">{{ step.figures[0]?.text }}</p>
            <p class="quiet">
              {{ step.figures[0]?.unit }}
              <WhyNumber
                v-if="step.figures[0]"
                :why="step.figures[0].why"
                :of="`${step.figures[0].text}, ${step.figures[0].unit}`"
              />
            </p>
          </template>
          <template v-else>
            <h2 class="step">{{ step.title }}</h2>
            <p v-if="keptSays" class="sub soon" role="status">{{ keptSays }}</p>
            <div class="figures">
              <div v-for="(f, i) in step.figures" :key="f.unit + i">
                <p class="huge">{{ f.text }}</p>
                <p class="quiet">{{ f.unit }} <WhyNumber :why="f.why" :of="`${f.text}, ${f.unit}`" /></p>
              </div>
            </div>
            <p v-for="s in step.says" :key="s" class="say">{{ s }}</p>
          </template>
          <p v-if="step.checks.length" class="quiet">Look for: {{ step.checks.join('; ') }}.</p>
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
          </div>
        </section>
        <section v-else class="flour now">
          <h2 class="step">Nothing for your hands</h2>
          <p>{{ v.nothing }}</p>
          <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
          <p v-if="told" class="quiet" role="status">{{ told }}</p>
        </section>
        <aside class="stack">
          <section v-if="tally" class="flour tally" aria-label="Count">
            <p>
              <span class="big">{{ tally.made - tally.broken }}</span> whole of {{ tally.wanted }} wanted<template
                v-if="tally.broken"
                >, {{ tally.broken }} broken</template
              >
            </p>
            <p :class="tally.short ? 'danger' : 'quiet'">{{ tally.says }}</p>
            <p v-if="counted" class="soon" role="status">Kept here: {{ counted }}</p>
            <div class="row">
              <Button
                label="−"
                aria-label="One fewer"
                severity="secondary"
                outlined
                class="tall square"
                @click="count(-1)"
              />
              <Button
                label="+"
                aria-label="One more"
                severity="secondary"
                outlined
                class="tall square"
                @click="count(1)"
              />
              <Button label="One broke" severity="secondary" outlined class="tall" @click="askBroke" /> <kbd>X</kbd>
            </div>
          </section>
          <template v-for="t in v.tallies" :key="t.pieceId">
            <Button
              v-if="t.short"
              :label="`Make ${t.short} more: ${t.name}`"
              :disabled="keptMore(t.pieceId)"
              class="tall"
              @click="act(`more ${t.pieceId}`, () => more.mutateAsync({ id: t.pieceId, n: t.short }))"
            />
          </template>
          <TimerList :timers="v.timers" />
          <section v-if="photo" class="flour list" aria-label="The tool">
            <MarkedPhoto :photo="photo" />
            <p v-for="s in photo.says" :key="s">{{ s }}</p>
          </section>
          <div class="row">
            <Button label="Timer" severity="secondary" outlined class="tall" @click="asking = 'timer'" /> <kbd>T</kbd>
            <template v-if="weighs">
              <Button label="Scale" severity="secondary" outlined class="tall" @click="asking = 'scale'" /> <kbd>W</kbd>
            </template>
            <Button
              v-if="v.lastSays"
              label="Take back"
              severity="secondary"
              outlined
              class="tall"
              :title="v.lastSays"
              @click="back"
            />
            <kbd v-if="v.lastSays">Backspace</kbd>
          </div>
          <p v-if="v.lastSays" class="quiet small">Last: {{ v.lastWho }} {{ v.lastSays }}</p>
          <section v-if="v.layOut.length" class="flour list">
            <h2>Lay out first</h2>
            <ul>
              <li v-for="x in v.layOut" :key="x">{{ x }}</li>
            </ul>
          </section>
          <section v-if="v.tidy.length" class="flour list">
            <h2>The end of the evening</h2>
            <ul>
              <li v-for="x in v.tidy" :key="x">{{ x }}</li>
            </ul>
          </section>
          <section>
            <h2 class="quiet side">Next for your hands</h2>
            <p v-for="n in v.next" :key="n.op" class="next">
              <span>{{ n.title }}</span> <span class="quiet">{{ n.startSays }}</span>
            </p>
          </section>
        </aside>
      </div>
      <ScaleDialog :op="weighs" :visible="asking === 'scale'" @update:visible="asking = ''" />
      <Dialog
        :visible="asking === 'broke'"
        modal
        dismissable-mask
        header="One broke: why?"
        :style="{ width: 'min(560px, 96vw)' }"
        @update:visible="asking = ''"
      >
        <div v-if="breakable.length > 1" class="row" role="group" aria-label="Which piece">
          <Button
            v-for="t in breakable"
            :key="t.pieceId"
            :label="t.name"
            :outlined="which !== t.pieceId"
            severity="secondary"
            class="tall"
            @click="which = t.pieceId"
          />
        </div>
        <div class="reasons">
          <Button v-for="r in v.reasons" :key="r.code" :label="r.say" class="tall" @click="sayBroke(r.code)" />
        </div>
      </Dialog>
      <Dialog
        :visible="asking === 'timer'"
        modal
        dismissable-mask
        header="A timer"
        :style="{ width: 'min(560px, 96vw)' }"
        @update:visible="asking = ''"
      >
        <div class="reasons">
          <Button
            v-for="m in ['3', '5', '8', '10', '15', '30']"
            :key="m"
            :label="`${m} min`"
            class="tall"
            @click="startTimer(m)"
          />
        </div>
        <form class="stack own" @submit.prevent="startTimer(minutes)">
          <label for="timer-minutes">or as long as</label>
          <InputText id="timer-minutes" v-model="minutes" autocomplete="off" placeholder="1 h 30" fluid />
          <label for="timer-about">What for</label>
          <InputText id="timer-about" v-model="about" autocomplete="off" fluid />
          <p v-if="timerFault" class="danger" role="alert">{{ timerFault }}</p>
          <Button type="submit" label="Start it" class="tall" severity="secondary" outlined />
        </form>
      </Dialog>
    </template>
  </div>
</template>

<style scoped>
.hands {
  min-height: 100vh;
  padding: 14px 22px 30px;
  display: grid;
  gap: 10px;
  align-content: start;
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
.step {
  font-size: clamp(30px, 4.2vw, 56px);
  line-height: 1.1;
  margin: 6px 0;
}
.sub {
  font-size: 22px;
  margin: 0;
}
.round {
  font-size: 19px;
  margin: 8px 0 0;
  padding-left: 24px;
}
.huge {
  font-family: 'Fraunces Variable', Fraunces, Georgia, serif;
  font-size: clamp(64px, 11vw, 150px);
  line-height: 1.05;
  margin: 10px 0 4px;
  font-variant-numeric: tabular-nums;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 0 40px;
}
.figures .huge {
  font-size: clamp(48px, 7vw, 96px);
}
.say {
  font-size: 19px;
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
.tall,
.who {
  min-height: 64px;
}
.square {
  min-width: 64px;
  font-size: 24px;
}
.tally,
.list {
  padding: 12px 18px;
}
.tally p {
  margin: 2px 0 6px;
}
.tally .big {
  font-size: 40px;
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
.reasons {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px;
  margin: 10px 0;
}
.own {
  gap: 8px;
}
@media (max-width: 900px) {
  .hands {
    padding: 10px 12px 24px;
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
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
