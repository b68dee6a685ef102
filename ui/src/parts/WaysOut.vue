<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onBeforeUnmount, ref } from 'vue'
import { api, take, type WaysOutView } from '../api/client'
import { useAct, useStudio } from '../api/queries'
import { useTakeBack } from './takeBack'
import { offerUndo } from './undo'

const studio = useStudio()
const found = ref<WaysOutView | null>(null)
const wrong = ref('')
const looking = ref<AbortController | null>(null)
const path = computed(() => ({ studio: studio.value }))

async function look() {
  stop()
  wrong.value = ''
  const mine = new AbortController()
  looking.value = mine
  try {
    found.value = await take(api.GET('/s/{studio}/line/waysOut', { params: { path: path.value }, signal: mine.signal }))
  } catch (err) {
    if (!mine.signal.aborted) wrong.value = err instanceof Error ? err.message : String(err)
  } finally {
    if (looking.value === mine) looking.value = null
  }
}
function stop() {
  looking.value?.abort()
  looking.value = null
}
onBeforeUnmount(stop)

const act = useAct((s, way: WaysOutView['ways'][number]) =>
  take(api.POST('/s/{studio}/line/waysOut', { params: { path: { studio: s } }, body: way })),
)
const back = useTakeBack()
async function attempt(way: WaysOutView['ways'][number]) {
  try {
    await act.mutateAsync(way)
    found.value = null
    offerUndo(`${way.says}: ${way.then}.`, () => back.mutate(undefined))
  } catch (err) {
    wrong.value = err instanceof Error ? err.message : String(err)
  }
}
</script>

<template>
  <section class="flour card" aria-live="polite">
    <h2>
      It does not fit: what would help?
      <Button v-if="!looking && !found" label="Look for ways out" @click="look" />
    </h2>
    <p v-if="looking" class="row">
      <span>Planning anew with one change after another; nothing is saved.</span>
      <Button label="Stop looking" severity="secondary" outlined @click="stop" />
    </p>
    <template v-else-if="found">
      <p v-if="found.lateSays" class="quiet small">{{ found.lateSays }}; {{ found.tried }} changes were tried.</p>
      <p v-if="!found.lateSays">Planned from nothing it fits as it is: it is hung so when nobody is at the bench.</p>
      <p v-else-if="!found.ways.length">
        None of them helps by itself. Ask for less, move the date, or take a piece out of the order.
      </p>
      <ul v-else class="ways">
        <li v-for="w in found.ways" :key="w.kind + w.id + w.says">
          <span class="tag" :class="w.fits ? 'fits' : 'soon'">{{ w.fits ? 'fits' : 'helps' }}</span>
          <span class="says"
            ><b>{{ w.says }}</b
            ><br /><span class="quiet small">{{ w.then }}</span></span
          >
          <Button
            label="Try it"
            severity="secondary"
            outlined
            :aria-label="`Try it: ${w.says}`"
            :disabled="act.isPending.value"
            @click="attempt(w)"
          />
        </li>
      </ul>
      <p><Button label="Look again" severity="secondary" text @click="look" /></p>
    </template>
    <p v-if="wrong" role="alert" class="danger">{{ wrong }}</p>
  </section>
</template>

<style scoped>
h2 {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 6px 20px;
  margin: 0;
}
.card {
  padding: 16px 20px;
}
.ways {
  list-style: none;
  padding: 0;
  margin: 0;
}
.ways li {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 8px 0;
  border-top: 1px solid var(--linen);
}
.tag {
  min-width: 44px;
  font-weight: 600;
}
.fits {
  color: var(--fern);
}
.says {
  flex: 1;
}
</style>
