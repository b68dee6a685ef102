<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, type CommissionRow } from '../api/client'
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
const setState = useAct((s, x: { id: number; state: 'open' | 'aside' | 'handedOver' }) =>
  take(api.POST('/s/{studio}/commissions/{id}/state/{state}', { params: { path: { studio: s, ...x } } })),
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
    <section v-for="g in groups" :key="g.say" class="stack">
      <h2 v-if="g.say" class="quiet">{{ g.say }}</h2>
      <article v-for="c in g.rows" :key="c.id" class="flour card">
        <FrondPicture :leaves="c.frond" :size="56" />
        <div class="what">
          <h2>
            <RouterLink :to="`/s/${studio}/commissions/${c.id}`">{{ c.title }}</RouterLink>
          </h2>
          <p class="quiet small">
            {{ c.customer }} <span v-if="c.guests" class="guests">{{ c.guests }}</span>
          </p>
          <p v-if="c.trouble" class="small">
            <b :class="{ danger: true }">{{ c.trouble.says }}</b> {{ c.trouble.remedy }}
            <span v-if="c.troubles > 1" class="quiet">and {{ c.troubles - 1 }} more</span>
          </p>
          <p v-else-if="c.next" class="small">Next: {{ c.next }}</p>
          <p v-else-if="c.state === 'open'" class="small quiet">No pieces yet: say what goes on it.</p>
        </div>
        <dl class="when">
          <div>
            <dt>handed over</dt>
            <dd>
              {{ c.handOver || 'no date yet' }} <span class="quiet">{{ c.in }}</span>
            </dd>
          </div>
          <div v-if="c.beginBy">
            <dt>begin by</dt>
            <dd class="soon">{{ c.beginBy }}</dd>
          </div>
        </dl>
        <div class="row acts">
          <Button
            v-if="c.state === 'open'"
            label="Put aside"
            size="small"
            severity="secondary"
            text
            :aria-label="`Put aside: ${c.title}`"
            @click="setState.mutate({ id: c.id, state: 'aside' })"
          />
          <Button
            v-if="c.state === 'open'"
            label="Hand over"
            size="small"
            severity="secondary"
            text
            :aria-label="`Hand over: ${c.title}`"
            @click="setState.mutate({ id: c.id, state: 'handedOver' })"
          />
          <Button
            v-if="c.state !== 'open'"
            label="Open again"
            size="small"
            severity="secondary"
            text
            :aria-label="`Open again: ${c.title}`"
            @click="setState.mutate({ id: c.id, state: 'open' })"
          />
          <Button
            label="Delete"
            size="small"
            severity="secondary"
            text
            :aria-label="`Delete ${c.title}`"
            @click="take_(c)"
          />
        </div>
      </article>
    </section>
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
.card {
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr) 260px;
  gap: 4px 18px;
  padding: 16px 20px 8px;
  align-items: start;
}
.card h2 a {
  color: var(--ink);
  text-decoration: none;
}
.what p {
  margin: 3px 0;
}
.when {
  margin: 0;
  display: grid;
  gap: 6px;
}
.when dt {
  font-size: 12.5px;
  color: var(--quiet);
}
.when dd {
  margin: 0;
  font-weight: 600;
}
.when dd .quiet {
  font-weight: 400;
}
.acts {
  grid-column: 2 / -1;
  gap: 2px;
  margin-left: -10px;
}
@media (max-width: 720px) {
  .card {
    grid-template-columns: 44px minmax(0, 1fr);
  }
  .when,
  .acts {
    grid-column: 1 / -1;
    margin-left: 0;
  }
}
</style>
