<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, ref, useId } from 'vue'
import { api, Refused, take, type KitchenView } from '../api/client'
import { useAct } from '../api/queries'

// The days of the next weeks: one that is not as its weekday is said by a press.
const props = defineProps<{ kitchen: KitchenView }>()
const id = useId()
type Cell = KitchenView['week']['dates'][number]
const days = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const at = ref<Cell>()
const says = ref('')
const fault = ref('')
const cells = computed(() => props.kitchen.week.dates)
const send = useAct((s, x: { date: string; says: string }) =>
  take(
    api.POST('/s/{studio}/kitchen/dates/{date}', {
      params: { path: { studio: s, date: x.date } },
      body: { version: props.kitchen.row.version, says: x.says },
    }),
  ),
)
async function open(c: Cell) {
  at.value = c
  fault.value = ''
  says.value = c.own && c.open ? c.says : ''
  await nextTick()
  document.getElementById(`${id}says`)?.focus()
}
async function set(text: string) {
  if (!at.value) return
  fault.value = ''
  try {
    await send.mutateAsync({ date: at.value.date, says: text })
    at.value = undefined
  } catch (err) {
    fault.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not saved.'
  }
}
</script>

<template>
  <div>
    <div class="grid" role="group" aria-label="Dates of the next weeks">
      <span v-for="d in days" :key="d" class="tiny quiet" aria-hidden="true">{{ d }}</span>
      <button
        v-for="c in cells"
        :key="c.date"
        type="button"
        class="cell"
        :class="{ open: c.open, own: c.own, today: c.today, held: at?.date === c.date }"
        :disabled="c.gone"
        :aria-label="`${c.name}: ${c.says}${c.own ? ', its own hours' : ''}`"
        :title="c.says"
        @click="open(c)"
      >
        {{ c.day }}<span v-if="c.own" class="tiny">{{ c.open ? 'own' : 'shut' }}</span>
      </button>
    </div>
    <form v-if="at" class="row edit" @submit.prevent="set(says)">
      <b>{{ at.name }}</b> <span class="quiet">{{ at.says }}</span>
      <Button label="Shut" severity="secondary" outlined @click="set('shut')" />
      <Button v-if="at.own" label="As the week is" severity="secondary" outlined @click="set('')" />
      <label :for="id + 'says'">other hours</label>
      <input
        :id="id + 'says'"
        v-model="says"
        class="typed"
        autocomplete="off"
        :aria-invalid="!!fault"
        :aria-describedby="fault ? id + 'e' : undefined"
      />
      <Button type="submit" label="Set them" :disabled="!says.trim()" :loading="send.isPending.value" />
      <Button label="Leave it" severity="secondary" text @click="at = undefined" />
    </form>
    <p v-if="fault" :id="id + 'e'" class="danger" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 64px));
  gap: 4px;
}
.cell {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  min-height: 44px;
  padding: 0;
  border: 1px solid var(--linen);
  border-radius: 6px;
  background: none;
  color: var(--quiet);
  font: inherit;
  line-height: 1.1;
}
.cell.open {
  background: var(--sage-light);
  color: var(--ink);
}
.cell.own {
  border: 2px solid var(--honey);
}
.cell.today {
  font-weight: 700;
}
.cell.held {
  outline: 2px solid var(--fern);
}
.cell:disabled {
  opacity: 0.4;
}
.edit {
  margin-top: 8px;
}
</style>
