<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { api, Refused, take, type RoughView } from '../api/client'
import { useStudio, useTools, useWays } from '../api/queries'

// An order that is only asked about: planned among the open ones, never saved.
const studio = useStudio()
const tools = useTools()
const ways = useWays()
interface Row {
  each: string
  made: string
}
const handOver = ref('')
const count = ref('1')
const rows = ref<Row[]>([{ each: '12', made: '' }])
const made = computed(() => [
  {
    label: 'With a tool of the drawer',
    items: (tools.data.value ?? []).map((t) => ({ label: t.name, value: `t${t.id}` })),
  },
  { label: 'By a way of making', items: (ways.data.value ?? []).map((w) => ({ label: w.name, value: `w${w.key}` })) },
])
const names = computed(() => new Map(made.value.flatMap((g) => g.items.map((i) => [i.value, i.label] as const))))
const found = ref<RoughView | null>(null)
const faults = ref<Record<string, string>>({})
const asking = ref(false)
const wrong = (field: string) => faults.value[field]

async function ask() {
  asking.value = true
  faults.value = {}
  found.value = null
  try {
    found.value = await take(
      api.POST('/s/{studio}/line/canTake', {
        params: { path: { studio: studio.value } },
        body: {
          handOver: handOver.value,
          count: count.value.trim(),
          lines: rows.value.map((r) => ({
            each: r.each.trim(),
            tool: r.made.startsWith('t') ? Number(r.made.slice(1)) : 0,
            way: r.made.startsWith('w') ? r.made.slice(1) : '',
            name: names.value.get(r.made) ?? '',
          })),
        },
      }),
    )
  } catch (err) {
    if (!(err instanceof Refused)) throw err
    const list = err.problem.fields ?? []
    faults.value = list.length
      ? Object.fromEntries(list.map((f) => [f.field, f.detail]))
      : { '': err.problem.detail ?? err.message }
  } finally {
    asking.value = false
  }
}
</script>

<template>
  <details class="flour rough">
    <summary>Can I take this order? Ask before it is written down</summary>
    <form class="stack" @submit.prevent="ask">
      <div class="row">
        <label
          >How many cakes or biscuits
          <InputText v-model="count" inputmode="numeric" class="short" :invalid="!!wrong('count')"
        /></label>
        <label
          >Wanted by <InputText v-model="handOver" placeholder="in 10 days, 10:00" :invalid="!!wrong('handOver')"
        /></label>
      </div>
      <p v-if="wrong('count')" role="alert" class="danger small">{{ wrong('count') }}</p>
      <p v-if="wrong('handOver')" role="alert" class="danger small">{{ wrong('handOver') }}</p>
      <div v-for="(r, i) in rows" :key="i">
        <div class="row">
          <label
            >On each
            <InputText v-model="r.each" inputmode="numeric" class="short" :invalid="!!wrong(`lines[${i}].each`)"
          /></label>
          <label
            >made
            <Select
              v-model="r.made"
              :options="made"
              option-group-label="label"
              option-group-children="items"
              option-label="label"
              option-value="value"
              filter
              placeholder="with which tool, or how"
              :aria-label="`What kind ${i + 1} is made with`"
              :invalid="!!wrong(`lines[${i}].tool`)"
          /></label>
          <Button
            v-if="rows.length > 1"
            label="Not this"
            severity="secondary"
            text
            :aria-label="`Not kind ${i + 1}`"
            @click="rows.splice(i, 1)"
          />
        </div>
        <template v-for="f in ['each', 'tool', 'way']" :key="f">
          <p v-if="wrong(`lines[${i}].${f}`)" role="alert" class="danger small">{{ wrong(`lines[${i}].${f}`) }}</p>
        </template>
      </div>
      <p v-for="f in ['', 'lines']" v-show="wrong(f)" :key="f" role="alert" class="danger small">{{ wrong(f) }}</p>
      <div class="row">
        <Button
          label="Another kind"
          severity="secondary"
          outlined
          :disabled="rows.length > 19"
          @click="rows.push({ each: '1', made: '' })"
        />
        <Button type="submit" label="Ask" :loading="asking" />
      </div>
    </form>
    <section v-if="found" class="answer" role="status">
      <h2 :class="{ danger: !found.fits }">{{ found.says }}</h2>
      <p v-if="found.begins" class="quiet">
        {{ found.hands }} of hands in {{ found.evenings === 1 ? '1 session' : `${found.evenings} sessions` }}, from
        {{ found.begins }}. Nothing is saved.
      </p>
      <ul v-if="found.late.length">
        <li v-for="x in found.late" :key="x" class="danger">{{ x }}</li>
      </ul>
      <ul v-if="found.leftOut.length">
        <li v-for="x in found.leftOut" :key="x">{{ x }}</li>
      </ul>
      <template v-if="found.pushed">
        <h3>It would push {{ found.pushed === 1 ? '1 step' : `${found.pushed} steps` }}</h3>
        <ul>
          <li v-for="x in found.pushes" :key="x" class="small">{{ x }}</li>
        </ul>
      </template>
      <p v-else-if="found.fits" class="quiet small">Nothing else moves for it.</p>
    </section>
  </details>
</template>

<style scoped>
.rough {
  padding: 4px 20px 16px;
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  font-weight: 600;
  cursor: pointer;
}
.short {
  width: 5.5em;
}
.answer {
  border-top: 1px solid var(--linen);
  margin-top: 14px;
}
</style>
