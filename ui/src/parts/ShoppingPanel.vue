<script setup lang="ts">
import Button from 'primevue/button'
import { useNeeds, useStudio } from '../api/queries'
import LoadState from './LoadState.vue'
import WhyNumber from './WhyNumber.vue'

const studio = useStudio()
const needs = useNeeds()
const print = () => window.print()
</script>

<template>
  <LoadState :error="needs.error.value" :loading="needs.isPending.value" @again="needs.refetch()" />
  <div v-if="needs.data.value" class="two">
    <section class="flour list">
      <header class="row">
        <h2>To buy</h2>
        <Button class="right noprint" label="Print" size="small" severity="secondary" outlined @click="print" />
      </header>
      <p v-if="!needs.data.value.shopping.length" class="good">Nothing: the pantry will do.</p>
      <ul v-else class="buy">
        <li v-for="s in needs.data.value.shopping" :key="s.name">
          <span class="box" aria-hidden="true"></span>
          <span>
            <span class="big">{{ s.packs }} × {{ s.pack }}</span> {{ s.name }}<br />
            <span class="small quiet"
              >short by {{ s.short.text }} <WhyNumber :why="s.short.why" :of="`${s.name}: short by ${s.short.text}`"
            /></span>
            <span v-if="s.note" class="small soon"><br />{{ s.note }}</span>
          </span>
        </li>
      </ul>
      <p class="quiet small noprint">
        The list as <a :href="`/api/s/${studio}/shopping/file/txt`" download>text</a> or
        <a :href="`/api/s/${studio}/shopping/file/csv`" download>a table (CSV)</a>.
      </p>
      <template v-if="needs.data.value.without.length">
        <h3>If it must be done without</h3>
        <table class="facts">
          <caption class="vh">
            What serves instead
          </caption>
          <tbody>
            <tr v-for="s in needs.data.value.without" :key="s.missing">
              <th scope="row">{{ s.missing }}</th>
              <td>
                {{ s.take }}<br /><span class="small quiet">{{ s.changes }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </template>
      <template v-if="needs.data.value.first.length">
        <h3>Use first</h3>
        <ul class="small">
          <li v-for="f in needs.data.value.first" :key="f">{{ f }}</li>
        </ul>
      </template>
    </section>
    <div class="stack">
      <section v-for="c in needs.data.value.commissions" :key="c.id" class="flour list">
        <header class="row">
          <h2>{{ c.title }}</h2>
          <span class="quiet small">{{ c.handOver }}</span>
          <b :class="c.does ? 'good' : 'soon'" class="right">{{ c.says }}</b>
        </header>
        <p v-if="!c.lines.length" class="quiet small">Nothing is wanted of the pantry yet.</p>
        <div v-else class="scroll">
          <table class="facts">
            <caption class="vh">
              What it wants of the pantry
            </caption>
            <thead>
              <tr>
                <th scope="col">Of</th>
                <th scope="col">wanted</th>
                <th scope="col">there in all</th>
                <th scope="col">there for it</th>
                <th scope="col">short</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="l in c.lines" :key="l.name">
                <th scope="row">
                  <span v-if="l.swatch" class="pat" :style="{ background: l.swatch }" aria-hidden="true"></span>
                  {{ l.name }}
                </th>
                <td>{{ l.need }} <WhyNumber :why="l.why" :of="`${l.name}: ${l.need}`" /></td>
                <td>{{ l.inAll }}</td>
                <td>{{ l.there }}</td>
                <td :class="{ danger: l.short }">{{ l.short || 'no' }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <p v-if="!needs.data.value.commissions.length" class="flour list">No commission is open: nothing is wanted.</p>
      <p v-if="needs.data.value.leftOut.length" class="quiet small">
        Not counted, for their paste is not settled: {{ needs.data.value.leftOut.join('; ') }}.
      </p>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  gap: 18px;
  align-items: start;
}
.list {
  padding: 14px 20px;
  margin: 0;
}
.right {
  margin-left: auto;
}
.good {
  color: var(--fern);
}
.buy {
  list-style: none;
  padding: 0;
}
.buy li {
  display: flex;
  gap: 12px;
  padding: 10px 0;
  border-bottom: 1px solid var(--linen);
}
.buy .big {
  font-size: 24px;
}
.box {
  width: 24px;
  height: 24px;
  border: 2px solid var(--edge);
  border-radius: 4px;
  flex: none;
  margin-top: 4px;
}
h3 {
  margin-top: 16px;
}
.scroll {
  overflow: auto hidden;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media print {
  .two {
    display: block;
  }
  .two > .stack {
    display: none;
  }
}
</style>
