<script setup lang="ts">
import Button from 'primevue/button'
import FilePick from './FilePick.vue'
import { useTableIn } from './tableIn'

// An older notebook out of a table, its columns matched by hand, seen before it comes in.
interface Look {
  head: string[]
  columns: { name: string; label: string; from: number; must: boolean }[]
  rows: string[]
  good: number
  bad: string[]
  badMore: number
  says: string
}
const { look, fault, done, busy, see, choose, take } = useTableIn<Look>(
  { look: 'notebook/look', take: 'notebook/take' },
  (seen) => `match=${(seen?.columns ?? []).map((c) => `${c.name}:${c.from}`).join(',')}`,
)
</script>

<template>
  <details class="flour card">
    <summary>Bring an older notebook in</summary>
    <p class="quiet">
      A CSV with a row of names first. When, which piece and what was seen are enough; with paste, thickness and hours a
      note of drying teaches as well.
    </p>
    <FilePick label="Choose a CSV" accept=".csv,.txt,text/csv" hint="none chosen" @file="choose" />
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <p v-if="done" role="status">{{ done }}</p>
    <template v-if="look">
      <div class="columns">
        <label v-for="c in look.columns" :key="c.name" class="small"
          >{{ c.label }}{{ c.must ? ', needed' : '' }}
          <select v-model.number="c.from" class="typed" @change="see">
            <option :value="-1">none</option>
            <option v-for="(h, i) in look.head" :key="i" :value="i">{{ h }}</option>
          </select>
        </label>
      </div>
      <p role="status">{{ look.says }}</p>
      <ul v-if="look.rows.length" class="small">
        <li v-for="(r, i) in look.rows" :key="i">{{ r }}</li>
      </ul>
      <ul v-if="look.bad.length" class="danger small">
        <li v-for="b in look.bad" :key="b">{{ b }}</li>
        <li v-if="look.badMore">and {{ look.badMore }} more</li>
      </ul>
      <div class="row">
        <Button label="Bring them in" :disabled="!look.good" :loading="busy" @click="take" />
        <Button label="Leave it" severity="secondary" outlined @click="look = undefined" />
      </div>
    </template>
  </details>
</template>

<style scoped>
.card {
  padding: 10px 20px;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 8px 14px;
}
label {
  display: grid;
  gap: 2px;
}
</style>
