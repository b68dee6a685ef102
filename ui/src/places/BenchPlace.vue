<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { api, take, type BenchView, type LineStep } from '../api/client'
import { keptOf, waiting } from '../api/outbox'
import { inHand, useBench, useBenchAct, useStudio } from '../api/queries'
import CalledOff from '../parts/CalledOff.vue'
import CautionList from '../parts/CautionList.vue'
import EndingList from '../parts/EndingList.vue'
import FreeMinutes from '../parts/FreeMinutes.vue'
import OfferRow from '../parts/OfferRow.vue'
import WhoseHands from '../parts/WhoseHands.vue'
import LoadState from '../parts/LoadState.vue'
import MovedList from '../parts/MovedList.vue'
import NotDue from '../parts/NotDue.vue'
import StepWays from '../parts/StepWays.vue'
import TallyBreak from '../parts/TallyBreak.vue'
import TimerList from '../parts/TimerList.vue'
import TroubleList from '../parts/TroubleList.vue'
import WaitList from '../parts/WaitList.vue'
import { useKeys } from '../parts/keys'
import { useTurns } from '../parts/turns'
import WhyNumber from '../parts/WhyNumber.vue'

const studio = useStudio()
const bench = useBench()
const v = computed(() => bench.data.value)
const now = computed(() => v.value?.now)
const fault = ref('')
const hands = useBenchAct((s, x: { op: string; version: number; do: Movement }) =>
  take(
    api.POST('/s/{studio}/bench/{op}/hands/{version}', {
      params: { path: { studio: s, op: x.op, version: x.version }, query: { do: x.do } },
    }),
  ),
)
const finish = useBenchAct((s, x: { op: string; version: number }) =>
  take(api.POST('/s/{studio}/bench/{op}/finish/{version}', { params: { path: { studio: s, ...x } } })),
)
const takeBack = useBenchAct((s, entry: number) =>
  take(api.POST('/s/{studio}/bench/takeBack/{entry}', { params: { path: { studio: s, entry } } })),
)
type Movement = '' | 'press' | 'pressOut' | 'open'
const kept = computed(() => keptOf(now.value?.op ?? '').presses > 0)
watch(waiting, (n) => n === 0 && (fault.value = '')) // what it said was kept is sent
const inTurn = useTurns()
const act = (key: string, what: () => Promise<BenchView>) =>
  void inTurn(key, async () => {
    fault.value = ''
    try {
      await what()
    } catch (err) {
      fault.value = err instanceof Error ? err.message : 'It was not marked.'
    }
  })
// one movement, as on the whole screen: never a whole batch
const done = () => {
  const n = now.value
  const d = v.value?.move?.do ?? ''
  if (n && !kept.value && d !== 'wait')
    act(`${n.op} ${n.version}`, () => hands.mutateAsync({ op: n.op, version: n.version, do: d as Movement }))
}
const whole = () => {
  const n = now.value
  if (n && !kept.value) act(`all ${n.op} ${n.version}`, () => finish.mutateAsync({ op: n.op, version: n.version }))
}
const take_ = (s: LineStep) => (inHand.value = s.op)
const back = () => {
  const entry = v.value?.lastId
  if (entry) act(`back ${entry}`, () => takeBack.mutateAsync(entry))
}
const breaks = ref<InstanceType<typeof TallyBreak>>()
useKeys({ ' ': done, Backspace: back, x: () => breaks.value?.ask() })
const doneWord = computed(() => v.value?.move?.done || now.value?.planned.done || 'Done')
</script>

<template>
  <div class="stack">
    <LoadState :error="bench.error.value" :loading="bench.isPending.value" @again="bench.refetch()" />
    <template v-if="v">
      <header class="row">
        <h1>{{ v.heading }}</h1>
        <span class="quiet">{{ v.until }}</span>
        <WhoseHands :people="v.people" />
        <span class="right">
          <b>{{ v.room }}</b> <span class="quiet">in the kitchen</span>
        </span>
      </header>
      <TroubleList :troubles="v.troubles" />
      <MovedList :moved="v.moved" :why="v.movedWhy" />
      <div class="bench">
        <section v-if="now" class="flour now" aria-live="polite">
          <p class="quiet">
            {{ now.commission }}<template v-if="now.piece"> · {{ now.piece }}</template>
          </p>
          <p v-if="now.guests" class="guests">{{ now.guests }}</p>
          <p v-if="inHand === now.op" class="soon">
            Planned for {{ now.startSays }}, taken earlier.
            <Button label="Leave it" severity="secondary" text @click="inHand = ''" />
          </p>
          <h2 class="step">{{ now.title }}</h2>
          <p v-if="v.move" class="say">
            <b>{{ v.move.say }}</b>: {{ v.move.sub }}.
          </p>
          <div class="figures">
            <div v-for="(f, i) in now.figures" :key="f.unit + i" class="figure" :class="{ first: i === 0 }">
              <span class="big">{{ f.text }}</span>
              <span class="small quiet">{{ f.unit }} <WhyNumber :why="f.why" :of="`${f.text}, ${f.unit}`" /></span>
            </div>
          </div>
          <p v-for="s in now.says" :key="s" class="say">{{ s }}</p>
          <p v-if="now.checks.length" class="quiet">
            Look for: {{ now.checks.join('; ') }}.
            <RouterLink v-if="now.pieceId" :to="{ path: `/s/${studio}/rescue`, query: { op: now.op } }"
              >It went wrong</RouterLink
            >
          </p>
          <StepWays :step="now" />
          <ul v-if="now.cautions.length" class="cautions">
            <li v-for="c in now.cautions" :key="c">{{ c }}</li>
          </ul>
          <div class="row acts">
            <p v-if="fault" class="danger line" role="alert">{{ fault }}</p>
            <Button
              :label="doneWord"
              class="do"
              :disabled="kept || v.move?.do === 'wait'"
              :loading="hands.isPending.value"
              @click="done"
            />
            <kbd>Space</kbd>
            <Button
              v-if="v.move && v.move.of > 1"
              :label="`All ${v.move.of} are done`"
              severity="secondary"
              outlined
              :disabled="kept"
              :loading="finish.isPending.value"
              @click="whole"
            />
            <span v-if="kept" class="soon" role="status">Kept here: it is sent when the server answers.</span>
            <CalledOff :bench="v" :op="now.op" :version="now.version" :kept="kept" />
            <span class="quiet"
              >{{ now.startSays }} to {{ now.endSays }}, {{ now.lengthSays
              }}<template v-if="now.for">, {{ now.for }}</template></span
            >
          </div>
          <template v-if="v.move?.do === 'wait' && v.offers.length">
            <p class="quiet">While it is in the freezer, your hands could:</p>
            <OfferRow v-for="o in v.offers" :key="o.op" :step="o" @take="take_" />
          </template>
        </section>
        <NotDue v-else :bench="v" :fault="fault" @take="take_" />
        <aside class="stack">
          <RouterLink :to="`/s/${studio}/hands`" class="handson">Hands on: the whole screen</RouterLink>
          <TimerList :timers="v.timers" />
          <WaitList :waiting="v.waiting" />
          <section v-if="now">
            <h2 class="quiet side">Next for your hands</h2>
            <p v-if="!v.next.length" class="quiet small">Nothing after this.</p>
            <div v-for="n in v.next" :key="n.op" class="next">
              <span>{{ n.title }}</span>
              <span class="quiet">{{ n.startSays }}</span>
            </div>
            <template v-if="v.others.length">
              <h2 class="quiet side">For other hands</h2>
              <div v-for="n in v.others" :key="n.op" class="next">
                <span>{{ n.title }}</span>
                <span class="quiet">{{ n.for }}, {{ n.startSays }}</span>
              </div>
            </template>
          </section>
          <FreeMinutes @take="take_" />
          <EndingList :ending="v.ending" />
          <TallyBreak ref="breaks" :bench="v" :first="now?.pieceId" />
          <section v-if="v.lastSays">
            <Button severity="secondary" outlined :label="`Take back: ${v.lastSays}`" @click="back" />
            <kbd>Backspace</kbd>
          </section>
          <p class="row">
            <RouterLink :to="`/s/${studio}/sheet`">The sheet to print</RouterLink>
            <RouterLink :to="`/s/${studio}/line`">The line</RouterLink> <kbd>L</kbd>
          </p>
          <CautionList :cautions="v.cautions" />
        </aside>
      </div>
    </template>
  </div>
</template>

<style scoped>
.right {
  margin-left: auto;
}
.bench {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: 24px;
}
.now {
  padding: 22px 28px 26px;
}
.now > p:first-child {
  margin-top: 0;
}
.step {
  font-size: 38px;
  line-height: 1.15;
  margin: 8px 0 14px;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 34px;
  align-items: flex-end;
  margin-bottom: 12px;
}
.figure {
  display: grid;
}
.figure .big {
  font-size: 36px;
  line-height: 1.1;
}
.figure.first .big {
  font-size: 76px;
  line-height: 1.2;
}
.say {
  font-size: 18px;
}
.cautions {
  font-size: 14px;
  color: var(--honey);
}
details {
  margin: 8px 0;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  color: var(--fern);
  font-weight: 600;
}
.acts {
  margin-top: 16px;
}
.handson {
  display: block;
  text-align: center;
  min-height: 52px;
  padding: 14px;
  border: 1.5px solid var(--fern);
  border-radius: 6px;
  color: var(--fern);
  font-weight: 650;
  text-decoration: none;
}
.do {
  min-height: 64px;
  min-width: 200px;
  font-size: 20px;
}
.side {
  font:
    500 14px 'Figtree Variable',
    sans-serif;
  letter-spacing: 0;
}
.next {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  border-top: 1px solid var(--linen);
  padding: 10px 0;
}
.next span:last-child {
  white-space: nowrap;
}
@media (max-width: 980px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
  }
  .bench > aside {
    display: contents;
  }
  .rings {
    order: -1; /* what rings comes before what is next */
  }
  .right {
    margin-left: 0;
  }
  .now {
    padding: 16px;
  }
  .step {
    font-size: 30px;
  }
  .figure.first .big {
    font-size: 60px;
  }
}
.line {
  flex: 1 0 100%;
  margin: 0;
}
/* the one thing to press stays in reach, on a telephone above the places */
.acts {
  position: sticky;
  bottom: 0;
  background: var(--flour);
  padding: 8px 0;
}
@media (max-width: 720px) {
  .acts {
    bottom: 64px;
  }
}
@media print {
  .acts {
    position: static;
  }
}
</style>
