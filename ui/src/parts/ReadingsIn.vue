<script setup lang="ts">
import Button from 'primevue/button'
import FilePick from './FilePick.vue'
import { useTableIn } from './tableIn'

// Readings out of a table: looked at first, its columns matched by hand where they were guessed wrong.
const props = defineProps<{ rack: number; name: string }>()
interface Look {
  head: string[]
  at: number
  temp: number
  rh: number
  good: number
  unused: number
  bad: string[]
  badMore: number
  says: string
}
const { look, fault, done, busy, see, choose, take } = useTableIn<Look>(
  { look: 'room/readings/look', take: 'room/readings' },
  (seen) => `rack=${props.rack}` + (seen ? `&at=${seen.at}&temp=${seen.temp}&rh=${seen.rh}` : ''),
)
const which = [
  { key: 'at', say: 'Time' },
  { key: 'temp', say: 'Temperature' },
  { key: 'rh', say: 'Humidity' },
] as const
</script>

<template>
  <section class="flour card">
    <h2>Readings out of a file</h2>
    <p class="quiet">
      A CSV with time, temperature and humidity, read in {{ name }}; up to a year by the minute. The same file again
      changes nothing.
    </p>
    <FilePick label="Choose a CSV" accept=".csv,.txt,text/csv" hint="none chosen" @file="choose" />
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <p v-if="done" role="status">{{ done }}</p>
    <template v-if="look">
      <div class="row">
        <label v-for="w in which" :key="w.key"
          >{{ w.say }}
          <select v-model.number="look[w.key]" class="typed" @change="see">
            <option :value="-1">none</option>
            <option v-for="(h, i) in look.head" :key="i" :value="i">{{ h }}</option>
          </select>
        </label>
      </div>
      <p role="status">{{ look.says }}</p>
      <ul v-if="look.bad.length" class="danger small">
        <li v-for="b in look.bad" :key="b">{{ b }}</li>
        <li v-if="look.badMore">and {{ look.badMore }} more</li>
      </ul>
      <div class="row">
        <Button label="Bring them in" :disabled="!look.good" :loading="busy" @click="take" />
        <Button label="Leave it" severity="secondary" outlined @click="look = undefined" />
      </div>
    </template>
  </section>
</template>

<style scoped>
.card {
  padding: 14px 20px;
}
label {
  display: grid;
  gap: 2px;
}
</style>
