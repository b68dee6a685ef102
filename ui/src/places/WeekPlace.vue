<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { useStudio, useWeek } from '../api/queries'
import LoadState from '../parts/LoadState.vue'

// Seven days on one page, for the wall of the kitchen.
const studio = useStudio()
const from = ref('')
const week = useWeek(from)
const print = () => window.print()
</script>

<template>
  <div class="week">
    <LoadState :error="week.error.value" :loading="week.isPending.value" @again="week.refetch()" />
    <template v-if="week.data.value">
      <header class="row">
        <h1>Week sheet</h1>
        <span>{{ week.data.value.shown }}, {{ week.data.value.name }}</span>
        <span class="noprint row right">
          <Button label="Earlier" severity="secondary" outlined @click="from = week.data.value.earlier" />
          <Button label="Later" severity="secondary" outlined @click="from = week.data.value.later" />
          <Button label="Print it" @click="print" />
          <RouterLink :to="`/s/${studio}/line`">To the line</RouterLink>
        </span>
      </header>
      <section v-for="d in week.data.value.days" :key="d.date" class="day" :class="{ shut: !d.steps.length }">
        <div class="head">
          <h2>{{ d.name }}</h2>
          <p>{{ d.hours }}</p>
          <p v-if="d.hands" class="quiet">{{ d.hands }} of hands</p>
        </div>
        <div>
          <p v-for="o in d.over" :key="o" class="over">Handed over: {{ o }}</p>
          <table v-if="d.steps.length" class="facts">
            <caption class="vh">
              {{
                d.name
              }}
            </caption>
            <tbody>
              <tr v-for="s in d.steps" :key="s.op" :class="{ done: s.done }">
                <td class="tick"><span class="box" role="img" aria-label="box to tick"></span></td>
                <td class="when">{{ s.when }}</td>
                <th scope="row">
                  {{ s.title }} <span class="quiet">{{ s.order }}</span>
                </th>
                <td class="who">{{ s.who }}</td>
                <td class="when">{{ s.length }}</td>
              </tr>
            </tbody>
          </table>
          <p v-else-if="!d.over.length && !d.ready.length" class="quiet">Nothing for hands.</p>
          <p v-if="d.ready.length" class="small">Waits that end: {{ d.ready.join('; ') }}.</p>
        </div>
      </section>
      <p class="quiet small">
        As it was planned {{ week.data.value.printed }}. Product labels and local food rules come first.
      </p>
    </template>
  </div>
</template>

<style scoped>
.week {
  max-width: 1000px;
}
.right {
  margin-left: auto;
}
.day {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr);
  gap: 4px 20px;
  padding: 10px 0;
  border-top: 1px solid var(--linen);
}
.shut {
  padding: 4px 0;
}
.head h2 {
  margin: 0;
  font-size: 19px;
}
.day p {
  margin: 2px 0;
}
.over {
  font-weight: 650;
  color: var(--fern);
}
table {
  width: 100%;
}
tbody th {
  font-weight: 600;
  color: var(--ink);
}
tbody th .quiet {
  font-weight: 400;
}
.facts td,
.facts th {
  padding: 3px 8px 3px 0;
  vertical-align: top;
}
.tick {
  width: 24px;
}
.box {
  display: inline-block;
  width: 15px;
  height: 15px;
  border: 1.5px solid var(--ink);
  border-radius: 3px;
}
.when,
.who {
  white-space: nowrap;
}
.who {
  color: var(--quiet);
}
.done th {
  text-decoration: line-through;
}
@media (max-width: 720px) {
  .day {
    grid-template-columns: minmax(0, 1fr);
  }
  .right {
    margin-left: 0;
  }
}
@media print {
  .day {
    break-inside: avoid-page;
  }
  .facts {
    font-size: 13px;
  }
}
</style>
