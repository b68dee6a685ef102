<script setup lang="ts">
import Button from 'primevue/button'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, reached, Refused, sendKept, take } from './api/client'
import { useLive } from './api/live'
import { again, forget, refused, waiting } from './api/outbox'
import { cache, useAct, useKitchen, useStudio } from './api/queries'
import { useKeys } from './parts/keys'
import { LaterDialog } from './parts/LaterDialog'
import { useTakeBack } from './parts/takeBack'
import { undo } from './parts/undo'
import FrondPicture from './pictures/FrondPicture.vue'
import { setScheme } from './theme/scheme'
import { useWords } from './words/words'

const studio = useStudio()
const kitchen = useKitchen()
const route = useRoute()
const router = useRouter()
const w = useWords()
const help = ref(false)
const finding = ref(false)
const FindDialog = defineAsyncComponent(() => import('./parts/FindDialog.vue'))
const helped = ref(false)
watch(help, () => (helped.value = true))
useLive(studio)
const whole = computed(() => route.name === 'hands')
const tryAgain = () => void sendKept().then(() => cache.invalidateQueries())
const sendAgain = (act: string) => {
  again(act)
  tryAgain()
}
// what stands last in the journal is read first: another's work done meanwhile is not what these keys mean
const last = (s: string) =>
  take(api.GET('/s/{studio}/journal', { params: { path: { studio: s }, query: { commission: 0, before: 0 } } }))
const undoLast = useTakeBack()
const redoLast = useAct(async (s) => {
  const entry = (await last(s)).redoId
  return entry && take(api.POST('/s/{studio}/journal/redo', { params: { path: { studio: s }, query: { entry } } }))
})
const keyFault = ref('')
async function byKey(what: () => Promise<unknown>) {
  keyFault.value = ''
  try {
    await what()
  } catch (err) {
    keyFault.value = err instanceof Refused ? err.message : 'It was not taken back.'
  }
}
watch(
  () => kitchen.data.value?.scheme ?? 'system',
  (s) => setScheme(s),
  { immediate: true },
)
watch(
  () => kitchen.data.value?.words,
  (us) => (document.documentElement.lang = us === 'us' ? 'en-US' : 'en-GB'),
)
const places = computed(() => [
  { to: 'bench', say: 'Bench', d: 'M3 20V4M3 5h15l-4 4 4 4H3' },
  {
    to: 'commissions',
    say: 'Commissions',
    d: 'M11 21V4M11 16C6 16 4 13 4 11c4 0 7 2 7 5M11 16c5 0 7-3 7-5-4 0-7 2-7 5M11 10C8 10 6 8 6 5c3 0 5 2 5 5M11 10c3 0 5-2 5-5-3 0-5 2-5 5',
  },
  {
    to: 'pantry',
    say: 'Pantry',
    d: 'M2.500 15a8.500 4.500 0 0 0 17 0a8.500 4.500 0 0 0-17 0M3 13c1-6 4-8 8-8s7 2 8 8',
  },
  {
    to: 'drawer',
    say: 'Tool drawer',
    d: 'M2.500 6a2 2 0 0 1 2-2h13a2 2 0 0 1 2 2v11a2 2 0 0 1-2 2h-13a2 2 0 0 1-2-2zM2.500 11.500h17M9 8h4M9 15.500h4',
  },
  {
    to: 'shelf',
    say: 'Shelf',
    d: 'M3 3v17M19 3v17M3 8h16M3 14h16M6 8V6.500h5V8M9 14v-2h7v2M3 20h16',
  },
  {
    to: 'notebook',
    say: 'Notebook',
    d: 'M5 3h11a1.500 1.500 0 0 1 1.500 1.500v13a1.500 1.500 0 0 1-1.500 1.500H5zM5 3v16M3 7h3M3 11h3M3 15h3M9 8h5M9 12h5',
  },
  {
    to: 'rescue',
    say: 'Rescue',
    d: 'M11 3v10M11 17v1.500M4 19.500 11 2.500l7 17Z',
  },
  { to: 'kitchen', say: 'Kitchen', d: 'M11 3c4 5 6 7.500 6 11a6 6 0 0 1-12 0c0-3.500 2-6 6-11Z' },
])
const on = (to: string) =>
  route.path.startsWith(`/s/${studio.value}/${to}`) ||
  (to === 'bench' && ['line', 'sheet', 'week', 'workload'].includes(String(route.name))) ||
  (to === 'kitchen' && route.name === 'room')
const mark = [1, 2, 3, 4, 5, 6].map(() => ({
  name: '',
  swatch: 'var(--fern)',
  state: 'firm' as const,
  share: 1,
  says: '',
}))
const go = (to: string) => studio.value && void router.push(`/s/${studio.value}/${to}`)
useKeys({
  'ctrl+z': () => studio.value && void byKey(() => undoLast.mutateAsync(undefined)),
  'ctrl+shift+z': () => studio.value && void byKey(() => redoLast.mutateAsync(undefined)),
  '?': () => (help.value = true),
  '/': () => studio.value && (finding.value = true),
  f: () => studio.value && (finding.value = true),
  b: () => go('bench'),
  l: () => !route.params.id && go('line'),
  Escape: () => route.params.id && go('commissions'),
})
const keys: [string, string][] = [
  ['1 - 9', "a commission's stages: Brief, Pieces, Paste, Colour, Make, Dry, Finish, Assemble, Hand over"],
  ['/ or F', 'find an order, a piece, a lot or a tool'],
  ['L', 'the line'],
  ['B', 'the bench'],
  ['Space', 'at the bench: one movement is done, show the next'],
  ['Backspace', 'at the bench: take the last one back'],
  ['T', 'hands on: a timer'],
  ['W', 'hands on: the scale'],
  ['H', 'hands on: the thermometer, while something is cooked'],
  ['+ -', 'hands on: one more, one fewer'],
  ['X', 'at the bench: one broke'],
  ['← → ↑ ↓', 'on the line: from pennant to pennant; with Shift ← → moves one, Enter keeps it there'],
  ['Ctrl Z', 'take the last change back; with Shift do it again'],
  ['Esc', 'leave'],
  ['?', 'these keys'],
]
function takeBack() {
  undo.value?.back()
  undo.value = null
}
</script>

<template>
  <div class="app" :class="{ bare: !studio || whole }">
    <nav v-if="studio && !whole" class="edge noprint" aria-label="Places">
      <RouterLink to="/" class="mark" aria-label="All studios"
        ><FrondPicture :leaves="mark" label="Dusty Fern"
      /></RouterLink>
      <RouterLink v-for="p in places" :key="p.to" :to="`/s/${studio}/${p.to}`" class="place" :class="{ on: on(p.to) }">
        <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true"><path :d="p.d" /></svg>
        {{ w(p.say) }}
      </RouterLink>
      <button type="button" class="place keys" @click="finding = true"><kbd>/</kbd> Find</button>
      <button type="button" class="place keys second" @click="help = true"><kbd>?</kbd> Keys</button>
    </nav>
    <main :class="{ whole }">
      <div v-if="!reached" class="away noprint" role="alert">
        The server does not answer. What you typed is still here. Start Dusty Fern again (<code>make start</code>), then
        <button type="button" class="link" @click="tryAgain">try once more</button>.
      </div>
      <p v-if="waiting" class="away noprint" role="status">
        {{ waiting === 1 ? '1 change waits' : `${waiting} changes wait` }} in this browser to be sent.
        <button v-if="reached" type="button" class="link" @click="tryAgain">Send now</button>
      </p>
      <p v-for="k in refused" :key="k.act" class="away noprint" role="alert">
        A change that was kept could not be saved: {{ k.refused }}
        <button type="button" class="link" @click="sendAgain(k.act)">Try again</button>
        <button type="button" class="link" @click="forget(k.act)">Let it go</button>
      </p>
      <p v-if="keyFault" class="away noprint" role="alert">
        {{ keyFault }} <button type="button" class="link" @click="keyFault = ''">Seen</button>
      </p>
      <RouterView :key="studio" />
    </main>
    <div v-if="undo" class="undo flour noprint" role="status">
      <span>{{ undo.say }}</span>
      <Button label="Bring it back" size="small" @click="takeBack" />
      <Button label="Let it go" size="small" severity="secondary" text @click="undo = null" />
    </div>
    <FindDialog v-if="finding" v-model:visible="finding" />
    <LaterDialog
      v-if="helped"
      v-model:visible="help"
      modal
      dismissable-mask
      header="Keys"
      :style="{ width: 'min(560px, 94vw)' }"
    >
      <table class="facts">
        <tbody>
          <tr v-for="[k, say] in keys" :key="k">
            <th scope="row">
              <kbd>{{ k }}</kbd>
            </th>
            <td>{{ say }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet small">None fires while a field, button or slider has the focus. Kitchen can switch them off.</p>
    </LaterDialog>
  </div>
</template>

<style scoped>
.app {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr);
  min-height: 100vh;
}
.app.bare {
  grid-template-columns: minmax(0, 1fr);
}
.edge {
  border-right: 1px solid var(--linen);
  padding: 16px 0;
  display: flex;
  flex-direction: column;
  gap: 2px;
  position: sticky;
  top: 0;
  height: 100vh;
  overflow: hidden auto;
}
.mark {
  margin: 0 auto 12px;
}
.place {
  color: var(--quiet);
  text-decoration: none;
  font: inherit;
  font-size: 12.5px;
  text-align: center;
  padding: 9px 4px 8px;
  min-height: 56px;
  position: relative;
  background: none;
  border: 0;
  cursor: pointer;
}
.place svg {
  display: block;
  margin: 0 auto 3px;
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.6;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.place.on {
  color: var(--fern);
  font-weight: 650;
}
.place.on::before {
  content: '';
  position: absolute;
  right: -1px;
  top: 10px;
  bottom: 10px;
  width: 3px;
  border-radius: 3px;
  background: var(--fern);
}
.keys {
  margin-top: auto;
}
.keys.second {
  margin-top: 0;
}
main {
  padding: 22px 30px 40px;
  min-width: 0;
  max-width: 1240px;
}
.away {
  background: var(--honey-fill);
  border: 1px solid var(--honey);
  border-radius: 10px;
  padding: 12px 16px;
  margin-bottom: 16px;
}
.undo {
  position: fixed;
  bottom: 18px;
  left: 50%;
  transform: translateX(-50%);
  padding: 10px 16px;
  display: flex;
  gap: 12px;
  align-items: center;
  z-index: 50;
  border-color: var(--fern);
  max-width: 94vw;
}
main.whole {
  padding: 0;
  max-width: none;
}
@media (max-width: 720px) {
  .app {
    grid-template-columns: minmax(0, 1fr);
    padding-bottom: 68px;
  }
  .app.bare {
    padding-bottom: 0;
  }
  .edge {
    position: fixed;
    inset: auto 0 0;
    top: auto;
    height: 64px;
    flex-direction: row;
    justify-content: flex-start;
    overflow-x: auto;
    border-right: 0;
    border-top: 1px solid var(--linen);
    background: var(--paper);
    padding: 2px 0;
    z-index: 40;
  }
  .mark,
  .keys.second {
    display: none;
  }
  .keys {
    margin-top: 0;
  }
  .place {
    flex: 1 0 50px;
    font-size: 11px;
    line-height: 1.1;
    text-align: center;
  }
  .place.on::before {
    inset: -2px 10px auto;
    width: auto;
    height: 3px;
  }
  main {
    padding: 16px 14px 24px;
  }
  .undo {
    bottom: 76px;
  }
}
@media print {
  .app {
    display: block;
  }
  main {
    padding: 0;
    max-width: none;
  }
}
</style>
