<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, Refused, sendFile, take, type BusyView, type KitchenView } from '../api/client'
import { cache, useAct, useStudio } from '../api/queries'
import FilePick from './FilePick.vue'

// The line out to a calendar, and busy times in from one.
const props = defineProps<{ kitchen: KitchenView }>()
const studio = useStudio()
const address = computed(() => props.kitchen.calendar && `${location.origin}${props.kitchen.calendar}`)
const renew = useAct((s, to: 'renew' | 'off') =>
  take(api.POST('/s/{studio}/kitchen/calendar/{do}', { params: { path: { studio: s, do: to } } })),
)
const copied = ref(false)
async function copy() {
  wrong.value = ''
  try {
    await navigator.clipboard.writeText(address.value)
    copied.value = true
  } catch {
    wrong.value = 'The browser did not let it be copied: mark the address and copy it by hand.'
  }
}
const whose = ref('')
const file = ref<File | null>(null)
const seen = ref<BusyView | null>(null)
const wrong = ref('')
const path = (what: string) => `/s/${studio.value}/kitchen/busy${what}?who=${encodeURIComponent(whose.value)}`
async function send(what: string) {
  wrong.value = ''
  try {
    return file.value && (await sendFile<BusyView>(path(what), file.value))
  } catch (err) {
    wrong.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It cannot be read.'
    return null
  }
}
async function choose(chosen: File) {
  file.value = chosen
  seen.value = await send('/look')
}
async function of(who: string) {
  whose.value = who
  if (file.value) seen.value = await send('/look')
}
async function bring() {
  if (!(await send(''))) return
  file.value = seen.value = null
  await cache.invalidateQueries()
}
const free = useAct((s, who: string) =>
  take(api.POST('/s/{studio}/kitchen/busy/off', { params: { path: { studio: s }, query: { who } } })),
)
</script>

<template>
  <section class="flour out">
    <h2>The line in a calendar</h2>
    <template v-if="kitchen.calendar">
      <p>
        A calendar that takes this address shows every step and hand-over, and follows the line. Who knows it can read
        them, and nothing else.
      </p>
      <p class="row">
        <code class="address">{{ address }}</code>
        <Button :label="copied ? 'Copied' : 'Copy it'" severity="secondary" outlined @click="copy" />
      </p>
      <p class="row">
        <Button
          label="Another secret: the old address goes dead"
          severity="secondary"
          outlined
          :loading="renew.isPending.value"
          @click="renew.mutate('renew')"
        />
        <Button label="Switch it off" severity="secondary" outlined @click="renew.mutate('off')" />
      </p>
    </template>
    <p v-else class="row">
      <Button label="Make an address for a calendar" :loading="renew.isPending.value" @click="renew.mutate('renew')" />
      <span class="quiet">It holds a secret; without one the line goes out only as a file.</span>
    </p>
    <p v-if="renew.error.value" class="danger" role="alert">{{ renew.error.value.message }}</p>
    <h2>Busy times from a calendar</h2>
    <p class="quiet">
      The hours at the bench close while somebody is busy. Only from when to when is kept, for the next 90 days.
    </p>
    <ul v-if="kitchen.busy.length" class="kept">
      <li v-for="b in kitchen.busy" :key="b.who" class="row">
        <span>{{ b.says }}</span>
        <Button
          label="Let them go"
          severity="secondary"
          outlined
          :aria-label="`Let them go: ${b.says}`"
          @click="free.mutate(b.who)"
        />
      </li>
    </ul>
    <p class="row" role="group" aria-label="Whose calendar it is">
      <span>Whose it is:</span>
      <Button
        v-for="p in ['', ...kitchen.people]"
        :key="p"
        :label="p || 'everybody'"
        severity="secondary"
        :outlined="whose !== p"
        :aria-pressed="whose === p"
        @click="of(p)"
      />
    </p>
    <FilePick
      label="Choose a calendar file"
      accept=".ics,text/calendar"
      hint="iCalendar (.ics), up to 4 MB"
      @file="choose"
    />
    <p v-if="wrong" class="danger" role="alert">{{ wrong }}</p>
    <template v-if="seen">
      <p>
        <b>{{ seen.says }}.</b>
      </p>
      <ul v-if="seen.lines.length" class="small">
        <li v-for="l in seen.lines" :key="l">{{ l }}</li>
        <li v-if="seen.in > seen.lines.length">and {{ seen.in - seen.lines.length }} more</li>
      </ul>
      <p class="row">
        <Button label="Close the hours then" :disabled="!seen.found" @click="bring" />
        <Button label="Leave it" severity="secondary" outlined @click="file = seen = null" />
      </p>
    </template>
  </section>
</template>

<style scoped>
.out {
  padding: 16px 20px;
}
h2 {
  font-size: 19px;
}
.address {
  overflow-wrap: anywhere;
  padding: 8px 10px;
  border: 1px solid var(--linen);
  border-radius: 6px;
}
.kept {
  list-style: none;
  padding: 0;
}
</style>
