<script setup lang="ts">
import { computed } from 'vue'
import { useLine } from '../api/queries'
import BuntingLine from '../pictures/BuntingLine.vue'
import LoadState from './LoadState.vue'

const props = defineProps<{ commission: number }>()
const line = useLine(() => props.commission)
const v = computed(() => line.data.value)
</script>

<template>
  <div class="stack">
    <LoadState :error="line.error.value" :loading="line.isPending.value" @again="line.refetch()" />
    <template v-if="v">
      <p class="quiet">{{ v.says }}</p>
      <div v-if="v.late.length || v.trouble || v.leftOut.length" class="late" role="status">
        <p v-for="l in v.late" :key="l" class="danger">
          <b>{{ l }}</b>
        </p>
        <p v-if="v.trouble" class="danger">{{ v.trouble }}</p>
        <p v-for="l in v.leftOut" :key="l" class="soon">Not in the plan: {{ l }}</p>
      </div>
      <BuntingLine v-if="v.sessions.length" :line="v" />
      <div v-if="v.rows.length" class="cards">
        <section class="flour card">
          <h2>{{ v.startBy ? `Begin by ${v.startBy}` : 'Nothing left to begin' }}</h2>
          <p class="quiet">Room in the whole plan: {{ v.slack }}. Later than this, it cannot be kept as it stands.</p>
        </section>
        <section class="flour card">
          <h2>What decides</h2>
          <ol class="small">
            <li v-for="d in v.decides" :key="d">{{ d }}</li>
          </ol>
        </section>
      </div>
      <div v-else-if="!v.trouble && !v.leftOut.length" class="flour card">
        <h2>Nothing to plan yet</h2>
        <p>An order with a hand-over date, pieces with a mould and a weight: then the line hangs itself.</p>
      </div>
      <section v-for="r in v.rows" :key="r.commissionId" class="flour list">
        <h2>
          {{ r.title }} <span class="quiet small">{{ r.handOverSays && `handed over ${r.handOverSays}` }}</span>
        </h2>
        <div class="scroll" tabindex="0" role="group" :aria-label="`Steps of ${r.title}`">
          <table class="facts">
            <caption class="vh">
              Steps of
              {{
                r.title
              }}
            </caption>
            <thead>
              <tr>
                <th scope="col">step</th>
                <th scope="col">begins</th>
                <th scope="col">ends</th>
                <th scope="col">takes</th>
                <th scope="col">why not later</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="s in r.steps" :key="s.op" :class="{ wait: !s.attended, done: s.actualEnd }">
                <th scope="row">
                  <span class="pat" :style="{ background: s.planned.swatch }" aria-hidden="true"></span> {{ s.title }}
                </th>
                <td>{{ s.startSays }}</td>
                <td>{{ s.endSays }}</td>
                <td>{{ s.lengthSays }}</td>
                <td class="quiet">{{ s.doneSays || s.planned.notLater }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
    </template>
  </div>
</template>

<style scoped>
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(320px, 100%), 1fr));
  gap: 16px;
}
.card,
.list {
  padding: 16px 20px;
}
.late {
  border-left: 4px solid var(--rosehip);
  background: var(--honey-fill);
  padding: 8px 16px;
  border-radius: 0 8px 8px 0;
}
.scroll {
  overflow-x: auto;
}
tbody th {
  color: var(--ink);
  font-weight: 600;
}
tr.wait th {
  font-weight: 400;
  color: var(--honey);
}
tr.done th {
  text-decoration: line-through;
}
.pat {
  width: 16px;
  height: 11px;
}
td {
  white-space: nowrap;
}
td:last-child {
  white-space: normal;
  min-width: 180px;
}
</style>
