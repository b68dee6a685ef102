<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { usePantry, useSchools, useStudio } from '../api/queries'
import BringIn from '../parts/BringIn.vue'
import LoadState from '../parts/LoadState.vue'
import LotInside from '../parts/LotInside.vue'
import NewRow from '../parts/NewRow.vue'
import SideChoice from '../parts/SideChoice.vue'
import ShoppingPanel from '../parts/ShoppingPanel.vue'
import { useWords } from '../words/words'

const w = useWords()
const studio = useStudio()
const route = useRoute()
const pantry = usePantry()
const schools = useSchools()
const open = ref(Number(route.query.lot ?? 0))
const adding = ref(false)
const bringing = ref(false)
const shopping = computed(() => route.name === 'shopping')
const empty = computed(() => pantry.data.value?.shelves.every((s) => s.lots.length === 0))
const first = ['name', 'kind', 'massG', 'openedOn', 'bestBefore', 'swatch', 'holds', 'may']
function made(id: number) {
  adding.value = false
  open.value = id
  sought = true
}
// a lot that an address or a new row names is brought into view, once it is there
let sought = open.value > 0
watch(
  [() => pantry.data.value, open],
  async () => {
    if (!sought || !pantry.data.value) return
    await nextTick()
    const lot = document.querySelector('.shelf > .wide')
    if (!lot) return
    sought = false
    lot.scrollIntoView({ block: 'start' })
  },
  { immediate: true },
)
watch(
  () => route.query.lot,
  (lot) => {
    if (!lot) return
    sought = true
    open.value = Number(lot)
  },
)
</script>

<template>
  <div class="stack">
    <header class="row noprint">
      <h1>Pantry</h1>
      <RouterLink :to="`/s/${studio}/pantry`" class="side" :class="{ on: !shopping }">What is there</RouterLink>
      <RouterLink :to="`/s/${studio}/pantry/shopping`" class="side" :class="{ on: shopping }">Will it do?</RouterLink>
      <template v-if="!shopping">
        <Button
          class="right"
          label="Bring a file in"
          severity="secondary"
          outlined
          @click="((bringing = !bringing), (adding = false))"
        />
        <Button label="Add a lot" @click="((adding = true), (bringing = false), (open = 0))" />
      </template>
    </header>
    <ShoppingPanel v-if="shopping" />
    <template v-else>
      <LoadState :error="pantry.error.value" :loading="pantry.isPending.value" @again="pantry.refetch()" />
      <BringIn v-if="bringing" @done="bringing = false" />
      <NewRow v-if="adding" kind="lots" label="Add a lot" :only="first" @made="made" @leave="adding = false" />
      <p v-if="pantry.data.value?.asks" class="asks" role="status">
        {{ pantry.data.value.asks === 1 ? 'One lot asks' : `${pantry.data.value.asks} lots ask` }} how much there really
        is: more was kneaded in than was written down.
      </p>
      <p v-if="empty && !adding" class="flour none">
        {{ w('The pantry is empty: add the pastes, colours and helpers that you have, with what their labels say.') }}
      </p>
      <section v-for="s in pantry.data.value?.shelves ?? []" v-show="s.lots.length" :key="s.name">
        <h2>{{ s.name }}</h2>
        <ul class="shelf">
          <li v-for="l in s.lots" :key="l.id" class="flour" :class="{ wide: open === l.id, asking: l.asks }">
            <button type="button" class="lot" :aria-expanded="open === l.id" @click="open = open === l.id ? 0 : l.id">
              <span v-if="l.swatch" class="dab" :style="{ background: l.swatch }" aria-hidden="true"></span>
              <span class="what">
                <b>{{ l.name }}</b>
                <span class="small quiet">{{ l.says.join(', ') }}</span>
                <span v-if="l.ages" class="small" :class="l.old ? 'soon' : 'quiet'">{{ l.ages }}</span>
                <span v-if="l.asks" class="small soon">{{ l.asks }}</span>
              </span>
              <span class="much">
                <span class="big">{{ l.mass }}</span>
                <svg v-if="l.full" viewBox="0 0 60 6" width="60" height="6" aria-hidden="true">
                  <rect width="60" height="6" rx="3" class="all" />
                  <rect :width="Math.max(2, 60 * l.full)" height="6" rx="3" class="left" />
                </svg>
              </span>
            </button>
            <LotInside v-if="open === l.id" :lot-id="l.id" @gone="open = 0" />
          </li>
        </ul>
      </section>
      <SideChoice v-if="!empty" :questions="(schools.data.value ?? []).filter((q) => q.code === 'leftovers')" />
      <p v-if="!empty" class="quiet small noprint">
        Take the pantry out as <a :href="`/api/s/${studio}/pantry/file/csv`" download>a table (CSV)</a> or
        <a :href="`/api/s/${studio}/pantry/file/json`" download>a document (JSON)</a>.
      </p>
    </template>
  </div>
</template>

<style scoped>
.right {
  margin-left: auto;
}
.side {
  color: var(--quiet);
  text-decoration: none;
  font-weight: 600;
  padding: 12px 4px;
  border-bottom: 3px solid transparent;
}
.side.on {
  color: var(--ink);
  border-color: var(--fern);
}
.none {
  padding: 24px;
}
.asks {
  background: var(--honey-fill);
  border-radius: 8px;
  padding: 12px 16px;
  margin: 0;
}
h2 {
  margin-bottom: 8px;
}
.shelf {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(330px, 100%), 1fr));
  gap: 8px;
}
.wide {
  grid-column: 1 / -1;
}
.asking {
  border-color: var(--honey);
}
.lot {
  width: 100%;
  min-height: 64px;
  display: flex;
  gap: 12px;
  align-items: center;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  padding: 10px 14px;
  text-align: left;
  cursor: pointer;
}
.dab {
  width: 34px;
  height: 26px;
  border-radius: 50%;
  border: 1px solid color-mix(in srgb, var(--ink) 30%, transparent);
  flex: none;
}
.what {
  display: grid;
  flex: 1;
  min-width: 0;
}
.much {
  text-align: right;
  flex: none;
}
.much .big {
  display: block;
  font-size: 20px;
  white-space: nowrap;
}
.all {
  fill: var(--linen);
}
.left {
  fill: var(--moss);
}
</style>
