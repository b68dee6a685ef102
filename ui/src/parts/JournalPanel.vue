<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, Refused, take } from '../api/client'
import { useAct, useJournal } from '../api/queries'
import LoadState from './LoadState.vue'

const props = defineProps<{ commission: number }>()
const pages = ref<number[]>([0])
const before = computed(() => pages.value[pages.value.length - 1] ?? 0)
const journal = useJournal(() => props.commission, before)
const v = computed(() => journal.data.value)
const fault = ref('')
const undo = useAct((s, x: { entry: number; last: boolean }) =>
  take(api.POST('/s/{studio}/journal/undo', { params: { path: { studio: s }, query: x } })),
)
const redo = useAct((s, entry: number) =>
  take(api.POST('/s/{studio}/journal/redo', { params: { path: { studio: s }, query: { entry } } })),
)
async function act(what: () => Promise<unknown>) {
  fault.value = ''
  try {
    await what()
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not taken back.'
  }
}
</script>

<template>
  <div class="stack">
    <LoadState :error="journal.error.value" :loading="journal.isPending.value" @again="journal.refetch()" />
    <template v-if="v">
      <div class="row">
        <Button
          v-if="v.undo"
          :label="`Take back: ${v.undo}`"
          severity="secondary"
          outlined
          @click="act(() => undo.mutateAsync({ entry: v?.undoId ?? 0, last: true }))"
        />
        <Button
          v-if="v.redo"
          :label="`Do again: ${v.redo}`"
          severity="secondary"
          outlined
          @click="act(() => redo.mutateAsync(v?.redoId ?? 0))"
        />
      </div>
      <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
      <p v-if="!v.entries.length" class="quiet">Nothing has happened yet.</p>
      <p v-else class="quiet small">{{ v.keeps }}</p>
      <ol class="lines" aria-label="Journal, newest first">
        <li v-for="e in v.entries" :key="e.id" :class="{ undone: e.undone }">
          <span class="when">{{ e.when }}</span>
          <span class="says"
            ><b>{{ e.who }}</b> {{ e.says }}<template v-if="e.undone"> (taken back)</template></span
          >
          <Button
            v-if="e.canUndo"
            label="Take back"
            size="small"
            severity="secondary"
            text
            :aria-label="`Take back: ${e.says}`"
            @click="act(() => undo.mutateAsync({ entry: e.id, last: false }))"
          />
        </li>
      </ol>
      <div class="row">
        <Button
          v-if="pages.length > 1"
          label="Newer"
          severity="secondary"
          outlined
          @click="pages = pages.slice(0, -1)"
        />
        <Button
          v-if="v.more"
          label="Older"
          severity="secondary"
          outlined
          @click="pages = [...pages, v.entries[v.entries.length - 1]?.id ?? 0]"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 0;
  padding: 0;
}
.lines li {
  display: grid;
  grid-template-columns: 140px minmax(0, 1fr) auto;
  gap: 4px 14px;
  align-items: center;
  border-top: 1px solid var(--linen);
  min-height: 48px;
  padding: 4px 0;
}
.when {
  color: var(--quiet);
}
.says {
  overflow-wrap: anywhere;
}
.undone .says {
  text-decoration: line-through;
  color: var(--quiet);
}
@media (max-width: 600px) {
  .lines li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .when {
    grid-column: 1 / -1;
  }
}
</style>
