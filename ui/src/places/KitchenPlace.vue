<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, Refused, take } from '../api/client'
import { useScale } from '../api/devices'
import { useAct, useKitchen, useSchools, useStudio } from '../api/queries'
import CalendarPanel from '../parts/CalendarPanel.vue'
import LoadState from '../parts/LoadState.vue'
import DateGrid from '../parts/DateGrid.vue'
import RowForm from '../parts/RowForm.vue'
import SideChoice from '../parts/SideChoice.vue'
import WeekStrips from '../parts/WeekStrips.vue'

const kitchen = useKitchen()
const schools = useSchools()
const studio = useStudio()
const k = computed(() => kitchen.data.value)
const scale = useScale('', true)
const onIt = ref('')
const modes = ['steady', 'noisy', 'drifting', 'unplugged']
const standIn = useAct((s, body: { mode?: string; put?: number }) =>
  take(api.POST('/s/{studio}/scale/standIn', { params: { path: { studio: s } }, body })),
)
const asked = ref(false)
const reset = useAct((s) => take(api.POST('/s/{studio}/reset', { params: { path: { studio: s } } })))
async function putBack() {
  await reset.mutateAsync(undefined)
  asked.value = false
}
const router = useRouter()
const leaving = ref(false)
const typedName = ref('')
const leaveFault = ref('')
const drop = useAct((s, name: string) =>
  take(api.POST('/s/{studio}/delete', { params: { path: { studio: s } }, body: { name } })),
)
async function dropIt() {
  leaveFault.value = ''
  try {
    await drop.mutateAsync(typedName.value)
    await router.push('/')
  } catch (err) {
    leaveFault.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not deleted.'
  }
}
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Kitchen</h1>
      <span v-if="k" class="quiet">{{ k.nowSays }}</span>
      <RouterLink :to="`/s/${studio}/journal`" class="right">Journal</RouterLink>
    </header>
    <p class="quiet">
      Every number in Dusty Fern comes from here, from the drawer and the pantry, or from the order itself.
    </p>
    <LoadState :error="kitchen.error.value" :loading="kitchen.isPending.value" @again="kitchen.refetch()" />
    <RowForm
      v-if="k"
      :id="k.row.id"
      kind="kitchen"
      :version="k.row.version"
      :fields="k.row.fields"
      :folded="['Your own spoons, drops and packets', 'Minutes and margins']"
      :as-text="['hours', 'exceptions']"
    >
      <template #top="{ group }">
        <p v-if="group === 'How is the room?'" class="quiet">
          What was read, what is coming, and other places to dry in:
          <RouterLink :to="`/s/${studio}/room`">Room and air</RouterLink>
        </p>
        <div v-if="group === 'When are you at the bench?'" class="hours">
          <WeekStrips :kitchen="k" />
          <div>
            <h2 class="sub">Dates that are not as their weekday</h2>
            <DateGrid :kitchen="k" />
          </div>
        </div>
      </template>
    </RowForm>
    <section v-if="schools.data.value" class="flour out">
      <h2>Where good makers differ</h2>
      <SideChoice :questions="schools.data.value" />
    </section>
    <details v-if="scale.data.value?.standIn" class="flour out">
      <summary>Devices</summary>
      <h2>The scale is a stand-in</h2>
      <p role="status">
        <template v-if="scale.data.value.plugged">It shows {{ scale.data.value.text || 'that it moves' }}.</template>
        <template v-else>{{ scale.data.value.why }}.</template>
        A real one is named at the start: <code>--scale /dev/ttyUSB0</code> or <code>--scale tcp://host:port</code>.
      </p>
      <form class="row" @submit.prevent="standIn.mutate({ put: Number(onIt) || 0 })">
        <label for="on-it">Grams that lie on it</label>
        <input id="on-it" v-model="onIt" type="number" min="0" max="50000" step="0.01" class="typed" />
        <Button type="submit" label="Lay them on it" severity="secondary" outlined />
      </form>
      <p class="row" role="group" aria-label="How it is">
        <Button
          v-for="m in modes"
          :key="m"
          :label="m"
          severity="secondary"
          :outlined="scale.data.value.mode !== m"
          :aria-pressed="scale.data.value.mode === m"
          @click="standIn.mutate({ mode: m })"
        />
      </p>
      <p class="quiet">
        The thermometer in the pan is looked at from Hands on, while something is cooked. A real one is named likewise:
        <code>--thermometer /dev/ttyUSB1</code> or <code>--thermometer tcp://host:port</code>.
      </p>
    </details>
    <CalendarPanel v-if="k" :kitchen="k" />
    <section v-if="k" class="flour out">
      <h2>Take the studio with you</h2>
      <p>
        <a :href="`/api/s/${studio}/export`" download>The whole studio as one document</a>, or as tables:
        <a :href="`/api/s/${studio}/csv/tools`" download>tools</a>,
        <a :href="`/api/s/${studio}/pantry/file/csv`" download>the pantry</a>,
        <a :href="`/api/s/${studio}/csv/steps`" download>steps</a>. A document is brought in on the first page.
      </p>
      <p v-if="k.isDemo" class="row">
        <Button
          v-if="!asked"
          label="Put the demo back to its first state"
          severity="secondary"
          outlined
          @click="asked = true"
        />
        <template v-else>
          <span>Everything that was changed in the demo goes.</span>
          <Button label="Put it back" :loading="reset.isPending.value" @click="putBack" />
          <Button label="Leave it" severity="secondary" outlined @click="asked = false" />
        </template>
      </p>
    </section>
    <section v-if="k && !k.isDemo" class="flour out">
      <h2>Delete this studio</h2>
      <Button v-if="!leaving" label="Delete it…" severity="secondary" outlined @click="leaving = true" />
      <template v-else>
        <p>
          Its orders, pantry, drawer and journal go for good: nothing brings them back but its document.
          <a :href="`/api/s/${studio}/export`" download>Keep the document first</a>.
        </p>
        <form class="row" @submit.prevent="dropIt">
          <label for="studio-name">The name of the studio, {{ k.name }}</label>
          <input
            id="studio-name"
            v-model="typedName"
            class="typed"
            autocomplete="off"
            :aria-invalid="!!leaveFault"
            aria-describedby="studio-name-fault"
          />
          <Button type="submit" label="Delete it for good" :disabled="!typedName" :loading="drop.isPending.value" />
          <Button label="Leave it" severity="secondary" outlined @click="leaving = false" />
        </form>
        <p v-if="leaveFault" id="studio-name-fault" class="danger" role="alert">{{ leaveFault }}</p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.out {
  padding: 14px 20px;
}
summary {
  font-family: 'Fraunces Variable', Fraunces, Georgia, serif;
  font-weight: 560;
  font-size: 18px;
  cursor: pointer;
}
.hours {
  display: grid;
  gap: 12px 28px;
  margin-bottom: 12px;
}
@media (min-width: 1100px) {
  .hours {
    grid-template-columns: minmax(0, 1fr) 330px;
  }
}
.sub {
  font-size: 16px;
  margin: 0 0 6px;
}
.right {
  margin-left: auto;
}
</style>
