<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, take } from '../api/client'
import { useRoomLive } from '../api/devices'
import { useRoom, useStrip } from '../api/drying'
import { useAct, useKitchen, useStudio } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import NewRow from '../parts/NewRow.vue'
import ReadingsIn from '../parts/ReadingsIn.vue'
import RowForm from '../parts/RowForm.vue'
import RoomStrip from '../pictures/RoomStrip.vue'

const studio = useStudio()
const room = useRoom()
const live = useRoomLive()
const kitchen = useKitchen()
const v = computed(() => room.data.value)
const rack = ref(0)
const hours = ref(72)
const strip = useStrip(rack, hours)
const adding = ref(false)
const chosen = computed(() => v.value?.places.find((p) => p.id === rack.value) ?? v.value?.places[0])
const said = (id: number) => live.value.find((p) => p.id === id)
const ofRoom = ['tempC', 'rhPercent', 'airMS', 'sensor', 'expects']
const fields = computed(
  () =>
    kitchen.data.value?.row.fields
      .filter((f) => ofRoom.includes(f.name))
      .map((f) => ({ ...f, group: 'The kitchen as you say it' })) ?? [],
)
const spans = [
  { h: 72, say: '3 days' },
  { h: 720, say: '30 days' },
  { h: 8760, say: 'A year' },
] as const
const standIn = useAct((s, mode: string) =>
  take(api.POST('/s/{studio}/room/standIn', { params: { path: { studio: s } }, body: { mode } })),
)
const modes = ['off', 'usual day', 'damp spell', 'dropouts', 'nonsense', 'unplugged']
const drop = useAct(async (s, id: number) => {
  await take(api.POST('/s/{studio}/rows/{kind}/{id}/remove', { params: { path: { studio: s, kind: 'racks', id } } }))
  rack.value = 0
})
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Room and air</h1>
      <RouterLink :to="`/s/${studio}/shelf`">To the shelf</RouterLink>
      <RouterLink :to="`/s/${studio}/kitchen`">To Kitchen</RouterLink>
    </header>
    <LoadState :error="room.error.value" :loading="room.isPending.value" @again="room.refetch()" />
    <template v-if="v">
      <div class="places" role="group" aria-label="Places where things dry">
        <button
          v-for="p in v.places"
          :key="p.id"
          type="button"
          class="flour place"
          :class="{ on: p.id === rack }"
          :aria-pressed="p.id === rack"
          @click="rack = p.id"
        >
          <b>{{ p.name }}</b>
          <span class="big">{{ said(p.id)?.says || p.air.says }}</span>
          <span v-if="said(p.id)?.says" class="quiet small">live</span>
          <span v-else class="small" :class="p.air.stale ? 'soon' : 'quiet'">{{ p.air.age }}</span>
          <span class="small" :class="p.air.slow ? 'danger' : 'quiet'">{{ p.air.verdict }}</span>
          <span v-if="said(p.id)?.bad" class="small danger" role="status">{{ said(p.id)?.bad }}</span>
        </button>
        <Button v-if="!adding" label="Another place" severity="secondary" outlined @click="adding = true" />
      </div>
      <NewRow
        v-if="adding"
        kind="racks"
        label="Put it up"
        @made="
          (id: number) => {
            adding = false
            rack = id
          }
        "
        @leave="adding = false"
      />
      <section class="flour card" :aria-label="`The air of ${chosen?.name}`">
        <div class="row">
          <h2>{{ chosen?.name }}</h2>
          <span class="row right" role="group" aria-label="How far back">
            <Button
              v-for="s in spans"
              :key="s.h"
              :label="s.say"
              severity="secondary"
              size="small"
              :outlined="hours !== s.h"
              :aria-pressed="hours === s.h"
              @click="hours = s.h"
            />
          </span>
        </div>
        <LoadState :error="strip.error.value" :loading="strip.isPending.value" @again="strip.refetch()" />
        <RoomStrip v-if="strip.data.value" :strip="strip.data.value" />
      </section>
      <template v-if="chosen">
        <RowForm
          v-if="chosen.id === 0 && kitchen.data.value"
          :id="kitchen.data.value.row.id"
          kind="kitchen"
          :version="kitchen.data.value.row.version"
          :fields="fields"
        />
        <template v-else-if="chosen.id !== 0">
          <RowForm
            :id="chosen.id"
            :key="chosen.id"
            kind="racks"
            :version="chosen.row.version"
            :fields="chosen.row.fields"
          />
          <p>
            <Button
              :label="`Take ${chosen.name} down`"
              severity="secondary"
              text
              :loading="drop.isPending.value"
              @click="drop.mutate(chosen.id)"
            />
          </p>
        </template>
        <ReadingsIn :rack="chosen.id" :name="chosen.name" />
      </template>
      <details v-if="v.standIn" class="flour card">
        <summary>The room sensor is a stand-in</summary>
        <p>
          It speaks of <b>kitchen</b>, <b>box</b> and <b>cupboard</b>: name one of these as the sensor of a place. A
          real one is named at the start: <code>--room tcp://host:port</code> or a serial port; it says a line a place,
          <code>kitchen 21.3 C 48 %</code>.
        </p>
        <p class="row" role="group" aria-label="How it is">
          <Button
            v-for="m in modes"
            :key="m"
            :label="m"
            severity="secondary"
            :outlined="v.mode !== m"
            :aria-pressed="v.mode === m"
            @click="standIn.mutate(m)"
          />
        </p>
      </details>
    </template>
  </div>
</template>

<style scoped>
.places {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 12px;
  align-items: stretch;
}
.place {
  display: grid;
  gap: 2px;
  text-align: left;
  padding: 12px 16px;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.place.on {
  border-color: var(--fern);
  box-shadow: inset 0 0 0 1px var(--fern);
}
.place .big {
  font-size: 22px;
}
.card {
  padding: 14px 20px;
}
.right {
  margin-left: auto;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
</style>
