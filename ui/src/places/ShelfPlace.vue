<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { Refused } from '../api/client'
import { useShelf, useTend } from '../api/drying'
import { useStudio } from '../api/queries'
import BatchCard from '../parts/BatchCard.vue'
import LoadState from '../parts/LoadState.vue'
import ShelfRack from '../pictures/ShelfRack.vue'
import TimerCord from '../pictures/TimerCord.vue'

const studio = useStudio()
const shelf = useShelf()
const v = computed(() => shelf.data.value)
const chosen = ref('')
const found = computed(() => {
  for (const r of v.value?.racks ?? [])
    for (const b of [...r.trays.flatMap((t) => t.batches), ...r.loose])
      if (b.op === chosen.value) return { batch: b, rack: r.id }
  return undefined
})
watch(v, (s) => {
  if (found.value || !s) return
  const first = s.racks.flatMap((r) => [...r.trays.flatMap((t) => t.batches), ...r.loose])[0]
  chosen.value = first?.op ?? ''
})
const tend = useTend()
const fault = ref('')
async function move(op: string, rack: number, tray: number) {
  fault.value = ''
  try {
    await tend.mutateAsync({ op, body: { do: 'tray', rack, tray }, anyway: false })
  } catch (err) {
    fault.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'They were not moved.'
  }
}
const widest = computed(() => Math.max(300, ...(v.value?.racks ?? []).flatMap((r) => r.trays.map((t) => t.lengthMM))))
const scale = computed(() => 142 / widest.value)
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Shelf</h1>
      <RouterLink :to="`/s/${studio}/room`">Room and air</RouterLink>
      <RouterLink :to="`/s/${studio}/notebook`">Notebook</RouterLink>
    </header>
    <LoadState :error="shelf.error.value" :loading="shelf.isPending.value" @again="shelf.refetch()" />
    <template v-if="v">
      <p v-if="v.nothing" class="quiet">
        {{ v.nothing }} <RouterLink :to="`/s/${studio}/bench`">To the bench</RouterLink>
      </p>
      <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
      <div class="split" :class="{ alone: !found }">
        <div class="flour racks">
          <ShelfRack
            v-for="r in v.racks"
            :key="r.id"
            :rack="r"
            :chosen="chosen"
            :scale="scale"
            @choose="(op) => (chosen = op)"
            @move="move"
          />
          <section v-if="v.freezer.length || v.places" class="freezer" aria-label="Freezer">
            <header class="row">
              <h2>Freezer</h2>
              <span class="quiet">{{ v.freezer.length }} of {{ v.places }} places taken</span>
            </header>
            <p v-if="!v.freezer.length" class="quiet small">Nothing is in it.</p>
            <div v-for="f in v.freezer" :key="f.name" class="row cold">
              <span class="cord"><TimerCord :share="f.share" kind="freezer" :ringing="f.share >= 1" /></span>
              <span>{{ f.name }}</span>
              <b>{{ f.says }}</b>
              <span class="quiet small">{{ f.dew }}</span>
            </div>
          </section>
        </div>
        <BatchCard
          v-if="found"
          :key="found.batch.op"
          :batch="found.batch"
          :rack="found.rack"
          :racks="v.racks"
          :supports="v.supports"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.split {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  gap: 16px;
  align-items: start;
}
.split.alone {
  grid-template-columns: minmax(0, 1fr);
}
.racks {
  padding: 14px 18px;
  display: grid;
  gap: 16px;
}
.freezer {
  border-top: 3px solid var(--dusk);
  padding-top: 8px;
}
.cord {
  width: 110px;
}
.cold {
  padding: 4px 0;
}
@media (max-width: 1080px) {
  .split {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
