<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { Refused, sendFile, type PantryPreview } from '../api/client'
import { cache, useStudio } from '../api/queries'
import FilePick from './FilePick.vue'

const emit = defineEmits<{ done: [] }>()
const studio = useStudio()
const file = ref<File | null>(null)
const seen = ref<PantryPreview | null>(null)
const fault = ref('')
const busy = ref(false)
async function send(what: 'look' | 'import') {
  if (!file.value) return null
  fault.value = ''
  busy.value = true
  try {
    return await sendFile<PantryPreview>(`/s/${studio.value}/pantry/${what}`, file.value)
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It cannot be read.'
  } finally {
    busy.value = false
  }
  return null
}
async function choose(chosen: File) {
  file.value = chosen
  seen.value = await send('look')
}
async function bring() {
  if (await send('import')) {
    await cache.invalidateQueries()
    emit('done')
  }
}
</script>

<template>
  <section class="flour in" aria-label="Bring a file in">
    <h2>Bring lots in from a file</h2>
    <p class="quiet small">
      A table (CSV) whose first line names the columns, or a document (JSON) that a pantry was taken out as. Nothing is
      changed before you have seen what it would bring.
    </p>
    <FilePick
      label="Choose a file"
      accept=".csv,.json,text/csv,application/json"
      hint="CSV or JSON, up to 4 MB"
      @file="choose"
    />
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <template v-if="seen">
      <p>
        <b>{{ seen.says }}</b>
      </p>
      <p v-if="seen.good.length" class="small">{{ seen.good.join(', ') }}</p>
      <table v-if="seen.bad.length" class="facts">
        <caption class="vh">
          Rows that cannot be taken in
        </caption>
        <thead>
          <tr>
            <th scope="col">Row</th>
            <th scope="col">Column</th>
            <th scope="col">Why not</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in seen.bad" :key="b.row">
            <td>{{ b.row }}</td>
            <td>{{ b.place || 'the row' }}</td>
            <td class="danger">{{ b.why }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="seen.more" class="quiet small">and {{ seen.more }} more.</p>
    </template>
    <div class="row">
      <Button
        v-if="seen?.good.length"
        :label="seen.bad.length ? 'Take the good rows in' : 'Take them in'"
        :loading="busy"
        @click="bring"
      />
      <Button label="Leave it" severity="secondary" outlined @click="emit('done')" />
    </div>
  </section>
</template>

<style scoped>
.in {
  padding: 16px 20px;
  display: grid;
  gap: 8px;
}
.in p {
  margin: 0;
}
</style>
