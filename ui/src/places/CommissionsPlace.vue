<script setup lang="ts">
import Button from 'primevue/button'
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, Refused, take, type CommissionRow } from '../api/client'
import { useAct, useCommissions, useStudio } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import { offerUndo } from '../parts/undo'
import FrondPicture from '../pictures/FrondPicture.vue'

const studio = useStudio()
const router = useRouter()
const skip = ref(0) // closed ones, a page at a time
const list = useCommissions(skip)
const v = computed(() => list.data.value)
const groups = computed(() =>
  [
    { say: '', rows: v.value?.rows ?? [] },
    { say: 'Put aside', rows: v.value?.closed.filter((c) => c.state === 'aside') ?? [] },
    { say: 'Handed over', rows: v.value?.closed.filter((c) => c.state === 'handedOver') ?? [] },
  ].filter((g) => g.rows.length),
)
const page = ref(1)
function turn(by: number) {
  if (by > 0) page.value = Math.max(1, v.value?.closed.length ?? 1)
  skip.value = Math.max(0, skip.value + by * page.value)
}
type State = 'open' | 'aside' | 'handedOver'
const setState = useAct((s, x: { id: number; state: State; anyway: boolean }) =>
  take(
    api.POST('/s/{studio}/commissions/{id}/state/{state}', {
      params: { path: { studio: s, id: x.id, state: x.state }, query: { anyway: x.anyway } },
    }),
  ),
)
const remove = useAct((s, x: { id: number; back: boolean }) => {
  const params = { params: { path: { studio: s, kind: 'commissions' as const, id: x.id } } }
  return take(
    x.back
      ? api.POST('/s/{studio}/rows/{kind}/{id}/restore', params)
      : api.POST('/s/{studio}/rows/{kind}/{id}/remove', params),
  )
})
async function take_(c: CommissionRow) {
  await remove.mutateAsync({ id: c.id, back: false })
  offerUndo(`${c.title} is deleted.`, () => void remove.mutateAsync({ id: c.id, back: true }))
}
// what the server asks before an order with something left to do is handed over
const asked = ref<{ id: number; say: string }>()
const says: Record<State, string> = { open: 'is open again', aside: 'is put aside', handedOver: 'is handed over' }
async function put(c: CommissionRow, state: State, anyway = false) {
  asked.value = undefined
  try {
    await setState.mutateAsync({ id: c.id, state, anyway })
    const was = c.state as State
    offerUndo(`${c.title} ${says[state]}.`, () => void setState.mutateAsync({ id: c.id, state: was, anyway: true }))
  } catch (err) {
    const asks = err instanceof Refused && err.problem.fields?.some((f) => f.field === 'anyway')
    if (!asks) throw err
    asked.value = { id: c.id, say: err.message }
  }
}
// all that is done to an order as a whole stands behind one control of its row
const menu = ref<InstanceType<typeof Menu>>()
const of = ref<CommissionRow>()
const items = computed(() => {
  const c = of.value
  if (!c) return []
  const state =
    c.state === 'open'
      ? [
          { label: 'Hand over', command: () => void put(c, 'handedOver') },
          { label: 'Put aside', command: () => void put(c, 'aside') },
        ]
      : [{ label: 'Open again', command: () => void put(c, 'open') }]
  return [...state, { label: 'Delete', command: () => void take_(c) }]
})
function more(e: Event, c: CommissionRow) {
  of.value = c
  menu.value?.toggle(e)
}
</script>

<template>
  <div class="stack">
    <header class="row head">
      <h1>Commissions</h1>
      <span class="quiet">what needs a hand first stands first</span>
      <Button label="Take an order" class="new" @click="router.push(`/s/${studio}/commissions/new`)" />
    </header>
    <LoadState :error="list.error.value" :loading="list.isPending.value" @again="list.refetch()" />
    <div v-if="v && !v.rows.length && !v.closed.length && !v.skip" class="flour empty">
      <h2>No orders yet</h2>
      <p>Take the first one: who it is for, when it is handed over, who eats. The pieces come after.</p>
    </div>
    <section v-for="g in groups" :key="g.say" :aria-label="g.say || 'Open'">
      <h2 v-if="g.say" class="quiet group">{{ g.say }}</h2>
      <div class="flour rows">
        <article v-for="c in g.rows" :key="c.id" class="card" :class="{ wrong: c.trouble }">
          <FrondPicture :leaves="c.frond" :size="42" lying />
          <div class="what">
            <h2>
              <RouterLink :to="`/s/${studio}/commissions/${c.id}`">{{ c.title }}</RouterLink>
              <span class="quiet small">{{ c.customer }}</span>
              <span v-if="c.guests" class="guests small">{{ c.guests }}</span>
            </h2>
            <p v-if="asked?.id === c.id" class="asks" role="alert">
              {{ asked.say }}
              <Button
                label="Hand it over all the same"
                severity="secondary"
                outlined
                @click="put(c, 'handedOver', true)"
              />
              <Button label="Leave it open" severity="secondary" text @click="asked = undefined" />
            </p>
            <p v-else-if="c.trouble" class="small line" :title="`${c.trouble.says} ${c.trouble.remedy}`">
              <b class="danger">{{ c.trouble.says }}</b> {{ c.trouble.remedy }}
              <span v-if="c.troubles > 1" class="quiet">and {{ c.troubles - 1 }} more</span>
            </p>
            <p v-else-if="c.next" class="small line">Next: {{ c.next }}</p>
            <p v-else-if="c.state === 'open'" class="small quiet line">No pieces yet: say what goes on it.</p>
          </div>
          <p class="when">
            <b>{{ c.handOver || 'no date yet' }}</b> <span class="quiet">{{ c.in }}</span><br />
            <span v-if="c.beginBy" class="soon small">begin by {{ c.beginBy }}</span>
          </p>
          <Button
            label="more"
            severity="secondary"
            text
            class="more"
            aria-haspopup="true"
            :aria-label="`More for ${c.title}`"
            @click="more($event, c)"
          />
        </article>
      </div>
    </section>
    <Menu ref="menu" :model="items" popup />
    <p v-if="v && (v.more || v.skip)" class="row">
      <Button v-if="v.skip" label="Newer" severity="secondary" outlined @click="turn(-1)" />
      <Button v-if="v.more" label="Older" severity="secondary" outlined @click="turn(1)" />
    </p>
  </div>
</template>

<style scoped>
.head .new {
  margin-left: auto;
}
.empty {
  padding: 24px;
}
.group {
  font-size: 18px;
  margin: 0 0 6px;
}
/* twelve orders on one screen */
.card {
  display: grid;
  grid-template-columns: 126px minmax(0, 1fr) auto 64px;
  gap: 0 16px;
  align-items: center;
  min-height: 54px;
  padding: 4px 8px 4px 14px;
}
.card + .card {
  border-top: 1px solid var(--linen);
}
.card.wrong {
  box-shadow: inset 4px 0 0 var(--rosehip);
}
.card h2 {
  margin: 0;
  font-size: 17px;
  line-height: 1.25;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.card h2 a {
  color: var(--ink);
  text-decoration: none;
}
.card h2 span {
  margin-left: 10px;
  font:
    400 13px 'Figtree Variable',
    sans-serif;
}
.card h2 .guests {
  font-weight: 600;
}
.what p {
  margin: 1px 0 0;
}
.line {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.asks {
  color: var(--rosehip);
}
.when {
  margin: 0;
  text-align: right;
  line-height: 1.3;
  white-space: nowrap;
}
.more {
  min-height: 44px;
}
@media (max-width: 900px) {
  .card {
    grid-template-columns: minmax(0, 1fr) auto;
    padding: 8px 4px 8px 12px;
  }
  .card > svg {
    width: 96px;
    height: 32px;
  }
  .more {
    grid-column: 2;
    grid-row: 1;
  }
  .what {
    grid-column: 1 / -1;
  }
  .card h2,
  .line {
    white-space: normal;
  }
  .card h2 span {
    display: block;
    margin-left: 0;
  }
  .when {
    grid-column: 1 / -1;
    text-align: left;
  }
}
</style>
