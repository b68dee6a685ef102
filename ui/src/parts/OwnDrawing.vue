<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, Refused, sendFile, take } from '../api/client'
import { cache, useAct, useStudio } from '../api/queries'
import FilePick from './FilePick.vue'

// An outline of one's own, from an SVG file: of a piece, or of a cutter.
const props = defineProps<{ piece?: number; tool?: number; what: string; path: string }>()
const studio = useStudio()
const fault = ref('')
const told = ref('')
async function bring(file: File) {
  fault.value = told.value = ''
  try {
    const at = props.piece ? `pieces/${props.piece}` : `tools/${props.tool}`
    await sendFile(`/s/${studio.value}/${at}/outline`, file)
    await cache.invalidateQueries()
    told.value = `${file.name}: its outline is in.`
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'The file was not read.'
  }
}
const remove = useAct((s, id: number) =>
  take(api.POST('/s/{studio}/pieces/{id}/outline/remove', { params: { path: { studio: s, id } } })),
)
async function away() {
  fault.value = told.value = ''
  try {
    await remove.mutateAsync(props.piece ?? 0)
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not taken away.'
  }
}
const print = (as: string) =>
  `/api/s/${studio.value}/print/${props.piece ? 'piece' : 'cutter'}/${props.piece ?? props.tool}/${as}`
</script>

<template>
  <section class="own" aria-label="Its own outline">
    <h3>Its outline</h3>
    <div class="row">
      <FilePick
        :label="path && piece ? 'Bring another drawing' : 'Bring a drawing'"
        accept=".svg,image/svg+xml"
        hint="an SVG file; what is closed in it is cut, at its own size"
        @file="bring"
      />
      <template v-if="path">
        <a :href="print('pdf')" target="_blank" rel="noopener">Print at true size (PDF)</a>
        <a :href="print('svg')" target="_blank" rel="noopener">as a drawing (SVG)</a>
        <Button v-if="piece" label="Take the drawing away" severity="secondary" outlined @click="away" />
      </template>
    </div>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <p v-if="told" class="quiet small" role="status">{{ told }}</p>
  </section>
</template>

<style scoped>
.own {
  margin: 14px 0;
}
.own h3,
.own p {
  margin: 4px 0;
}
.row {
  gap: 8px 18px;
}
</style>
