<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { Refused, type BatchView, type Option, type RackView, type TendIn } from '../api/client'
import { useTend } from '../api/drying'
import { useStudio } from '../api/queries'
import NoteButtons from './NoteButtons.vue'

// A batch that dries: when what may be done with it, what hands do to it, what is seen of it.
const props = defineProps<{ batch: BatchView; racks: RackView[]; rack: number; supports: Option[] }>()
const studio = useStudio()
const tend = useTend()
const asked = ref<{ body: TendIn; say: string }>()
const fault = ref('')
const goal = ref('')
async function do_(body: TendIn, anyway = false) {
  fault.value = ''
  asked.value = undefined
  try {
    await tend.mutateAsync({ op: props.batch.op, body, anyway })
  } catch (err) {
    const f = err instanceof Refused ? err.problem.fields[0] : undefined
    if (f?.field === 'anyway') asked.value = { body, say: f.detail }
    else fault.value = f?.detail ?? (err instanceof Error ? err.message : 'It was not noted.')
  }
}
const goals = computed(() =>
  props.racks.flatMap((r) => r.trays.map((t) => ({ key: `${r.id}/${t.n}`, say: `${r.name}, ${t.says}` }))),
)
function move() {
  const [rack, tray] = goal.value.split('/').map(Number)
  goal.value = ''
  if (tray) void do_({ do: 'tray', rack: rack ?? 0, tray })
}
const others = computed(() => props.supports.filter((s) => s.code !== props.batch.supportCode))
const onto = ref('')
function lay() {
  if (onto.value) void do_({ do: 'support', support: onto.value })
  onto.value = ''
}
const states = { yes: 'now', maybe: 'look', no: '', never: '' }
</script>

<template>
  <section class="flour card" :aria-label="batch.name">
    <header>
      <span class="pat" :style="{ background: batch.swatch }" />
      <h2>{{ batch.name }}</h2>
      <span class="quiet">{{ batch.all }} on {{ batch.support }}, since {{ batch.since }}</span>
      <RouterLink class="right" :to="`/s/${studio}/commissions/${batch.orderId}/dry?piece=${batch.pieceId}`">{{
        batch.order
      }}</RouterLink>
    </header>
    <p v-if="batch.never" class="danger" role="status">{{ batch.never }}</p>
    <table class="facts marks">
      <caption class="vh">
        What may be done with them
      </caption>
      <tbody>
        <tr v-for="m in batch.marks" :key="m.code" :class="m.state">
          <th scope="row">{{ m.says }}</th>
          <td>
            <b>{{ m.when }}</b> <span v-if="states[m.state]" class="state">{{ states[m.state] }}</span>
          </td>
          <td class="quiet small">{{ m.band }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="batch.then" class="quiet small">Then: {{ batch.then }}</p>
    <p v-if="batch.turn" class="quiet small">{{ batch.turn }}</p>
    <p v-if="batch.tacky" class="soon small">{{ batch.tacky }}</p>
    <div class="row hands" role="group" aria-label="What hands do to them">
      <Button
        v-if="batch.mayTurn"
        label="Turned them over"
        severity="secondary"
        outlined
        @click="do_({ do: 'turn' })"
      />
      <Button v-if="batch.bagged" label="Out of the bag" severity="secondary" outlined @click="do_({ do: 'unbag' })" />
      <Button v-else-if="batch.mayBag" label="Into a bag" severity="secondary" outlined @click="do_({ do: 'bag' })" />
      <label
        ><span class="vh">Lay them on</span>
        <select v-model="onto" class="typed" @change="lay">
          <option value="">Came off, lay on…</option>
          <option v-for="s in others" :key="s.code" :value="s.code">{{ s.say }}</option>
        </select>
      </label>
      <label
        ><span class="vh">Move them</span>
        <select v-model="goal" class="typed" @change="move">
          <option value="">Move to…</option>
          <option v-for="g in goals" :key="g.key" :value="g.key">{{ g.say }}</option>
        </select>
      </label>
    </div>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <p v-if="asked" class="row" role="alert">
      <span class="soon">{{ asked.say }}</span>
      <Button label="All the same" severity="secondary" outlined @click="do_(asked.body, true)" />
    </p>
    <h3>What is seen</h3>
    <p>
      <RouterLink :to="{ path: `/s/${studio}/rescue`, query: { op: batch.op } }" class="small"
        >It went wrong: find out why</RouterLink
      >
    </p>
    <NoteButtons :op="batch.op" :offers="batch.offers" :name="batch.name" />
    <ul v-if="batch.notes.length || batch.done.length" class="quiet small">
      <li v-for="n in batch.notes" :key="n">{{ n }}</li>
      <li v-for="d in batch.done" :key="d">{{ d }}</li>
    </ul>
  </section>
</template>

<style scoped>
.card {
  padding: 14px 20px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
}
.right {
  margin-left: auto;
}
.marks td,
.marks th {
  padding: 5px 10px 5px 0;
}
.marks .no b {
  color: var(--ink);
}
.state {
  margin-left: 6px;
  padding: 1px 8px;
  border-radius: 6px;
  background: var(--sage);
  font-size: 13px;
}
.maybe .state {
  background: var(--honey-fill);
}
.never b {
  color: var(--rosehip);
}
.hands {
  margin: 10px 0;
}
select {
  max-width: 100%;
}
.hands label {
  min-width: 0;
}
h3 {
  margin: 12px 0 8px;
}
</style>
