<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { api, take, type LearntRow } from '../api/client'
import { useLearnt, useNotebook } from '../api/drying'
import { useAct, useStudio } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import NotesIn from '../parts/NotesIn.vue'
import { useTakeBack } from '../parts/takeBack'
import WhyNumber from '../parts/WhyNumber.vue'
import LearntPictures from '../pictures/LearntPictures.vue'

const studio = useStudio()
const typed = ref('')
const find = ref('')
const skip = ref(0)
let later = 0
watch(typed, (t) => {
  window.clearTimeout(later)
  later = window.setTimeout(() => {
    find.value = t.trim()
    skip.value = 0
  }, 250)
})
const notes = useNotebook(find, skip)
const learnt = useLearnt()
const v = computed(() => notes.data.value)
const l = computed(() => learnt.data.value)
const back = useTakeBack()
const set = ref('')
const setBack = useAct(async (s, r: LearntRow) => {
  await take(api.POST('/s/{studio}/notebook/setBack', { params: { path: { studio: s } }, body: { paste: r.paste } }))
  set.value = r.name
})
const leave = useAct((s, x: { id: number; do: 'leave' | 'take' }) =>
  take(api.POST('/s/{studio}/notes/{id}/{do}', { params: { path: { studio: s, id: x.id, do: x.do } } })),
)
const drop = useAct((s, id: number) =>
  take(api.POST('/s/{studio}/rows/{kind}/{id}/remove', { params: { path: { studio: s, kind: 'notes', id } } })),
)
const groups = computed(() =>
  l.value
    ? [
        { say: 'Drying', rows: l.value.drying },
        { say: 'Moulds and cutters', rows: l.value.tools },
        { say: 'Pastes', rows: l.value.lots },
        { say: 'Hands', rows: l.value.hands },
      ].filter((g) => g.rows.length)
    : [],
)
const x = (f: number) => 4 + (Math.min(2.5, Math.max(0.4, f)) - 0.4) * (112 / 2.1)
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Notebook</h1>
      <RouterLink :to="`/s/${studio}/shelf`">Shelf</RouterLink>
      <RouterLink :to="`/s/${studio}/journal`">Journal</RouterLink>
    </header>
    <section aria-label="What was learnt" class="stack">
      <h2>What it taught</h2>
      <LoadState :error="learnt.error.value" :loading="learnt.isPending.value" @again="learnt.refetch()" />
      <template v-if="l">
        <p v-if="l.nothing" class="quiet">{{ l.nothing }}</p>
        <p v-if="set" role="status" class="row">
          <span>{{ set }} is set back: its notes stand, and no longer count.</span>
          <Button
            label="Take that back"
            severity="secondary"
            text
            @click="back.mutateAsync(undefined).then(() => (set = ''))"
          />
        </p>
        <div v-if="groups.length" class="learnt">
          <section v-for="g in groups" :key="g.say" class="flour card" :aria-label="g.say">
            <h3>{{ g.say }}</h3>
            <div v-for="r in g.rows.slice(0, 12)" :key="r.name + r.text" class="learn">
              <div>
                <b>{{ r.name }}</b>
                <p>{{ r.text }} <WhyNumber :why="r.why" :of="r.name" /></p>
                <p class="quiet small">{{ r.sure }}; from {{ r.from }}</p>
              </div>
              <svg v-if="r.mid" width="120" height="30" viewBox="0 0 120 30" aria-hidden="true">
                <path :d="`M${x(1)} 2V28`" class="one" />
                <rect :x="x(r.low)" y="9" :width="Math.max(4, x(r.high) - x(r.low))" height="12" rx="6" class="band" />
                <circle :cx="x(r.mid)" cy="15" r="5" class="dot" />
              </svg>
              <svg v-else-if="r.share >= 0" width="120" height="30" viewBox="0 0 120 30" aria-hidden="true">
                <rect x="4" y="9" width="112" height="12" rx="6" class="band" />
                <rect x="4" y="9" :width="112 * r.share" height="12" rx="6" class="lost" />
              </svg>
              <Button
                v-if="r.mid"
                :label="r.all ? 'Set all back' : 'Set it back'"
                severity="secondary"
                text
                size="small"
                :aria-label="`${r.all ? 'Set all back' : 'Set it back'}: ${r.name}`"
                @click="setBack.mutate(r)"
              />
              <RouterLink v-else-if="r.to" :to="`/s/${studio}/${r.to}`" class="small" :aria-label="`Open it: ${r.name}`"
                >Open it</RouterLink
              >
            </div>
            <p v-if="g.rows.length > 12" class="quiet small">and {{ g.rows.length - 12 }} more</p>
          </section>
        </div>
        <LearntPictures :v="l" />
      </template>
    </section>
    <section aria-label="Notes" class="flour card">
      <header class="row">
        <h2>Notes</h2>
        <label class="right">
          <span class="vh">Find notes</span>
          <input
            v-model="typed"
            class="typed"
            type="search"
            placeholder="piece, paste, tool, cracked…"
            maxlength="200"
          />
        </label>
      </header>
      <LoadState :error="notes.error.value" :loading="notes.isPending.value" @again="notes.refetch()" />
      <template v-if="v">
        <p v-if="v.nothing" class="quiet">{{ v.nothing }}</p>
        <div v-for="n in v.notes" :key="n.id" class="note" :class="{ out: n.leftOut }">
          <span class="quiet small when">{{ n.when }}<br />{{ n.who }}</span>
          <div>
            <p>
              <RouterLink v-if="n.orderId" :to="`/s/${studio}/commissions/${n.orderId}/dry`">{{ n.name }}</RouterLink>
              <b v-else>{{ n.name }}</b>: {{ n.says }}
              <span v-if="n.foretold" class="quiet">({{ n.foretold }})</span>
            </p>
            <p v-if="n.of" class="quiet small">{{ n.of }}</p>
            <p v-if="n.leftOut" class="soon small">left out of what is learnt</p>
          </div>
          <a v-if="n.photo" :href="`/api/s/${studio}/photos/${n.photo}`" target="_blank" rel="noopener">
            <img :src="`/api/s/${studio}/photos/${n.photo}`" :alt="`Photo of ${n.name}`" loading="lazy" />
          </a>
          <span class="acts">
            <Button
              v-if="n.teaches"
              :label="n.leftOut ? 'Let it count' : 'Leave it out'"
              severity="secondary"
              text
              size="small"
              :aria-label="`${n.leftOut ? 'Let it count' : 'Leave it out'}: ${n.name}, ${n.says}`"
              @click="leave.mutate({ id: n.id, do: n.leftOut ? 'take' : 'leave' })"
            />
            <Button
              label="Take it away"
              severity="secondary"
              text
              size="small"
              :aria-label="`Take it away: ${n.name}, ${n.says}`"
              @click="drop.mutate(n.id)"
            />
          </span>
        </div>
        <p v-if="skip || v.more" class="row">
          <Button v-if="skip" label="Newer" severity="secondary" outlined @click="skip = Math.max(0, skip - 40)" />
          <Button v-if="v.more" label="Older" severity="secondary" outlined @click="skip += 40" />
        </p>
        <p class="small">
          Out: <a :href="`/api/s/${studio}/notebook/file/csv`" download>as a table</a>,
          <a :href="`/api/s/${studio}/notebook/file/json`" download>as JSON</a>.
        </p>
      </template>
    </section>
    <NotesIn />
  </div>
</template>

<style scoped>
.card {
  padding: 14px 20px;
}
.learnt {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: 14px;
  align-items: start;
}
.learn {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 4px 12px;
  align-items: center;
  border-top: 1px solid var(--linen);
  padding: 8px 0;
}
.learn p,
.note p {
  margin: 1px 0;
}
.one {
  stroke: var(--edge);
  stroke-dasharray: 2 3;
}
.band {
  fill: var(--sage);
}
.dot {
  fill: var(--fern);
}
.lost {
  fill: var(--rosehip);
}
.right {
  margin-left: auto;
}
.note {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr) auto auto;
  gap: 4px 14px;
  border-top: 1px solid var(--linen);
  padding: 9px 0;
  align-items: start;
}
.note img {
  width: 72px;
  height: 54px;
  object-fit: cover;
  border-radius: 6px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
}
@media (max-width: 720px) {
  .note {
    grid-template-columns: minmax(0, 1fr);
  }
  .learn {
    grid-template-columns: minmax(0, 1fr) auto;
  }
}
</style>
