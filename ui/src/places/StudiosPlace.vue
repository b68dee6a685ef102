<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, type Problem } from '../api/client'
import FilePick from '../parts/FilePick.vue'
import LoadState from '../parts/LoadState.vue'

const router = useRouter()
const client = useQueryClient()
const studios = useQuery({ queryKey: ['studios'], queryFn: () => take(api.GET('/studios')) })
const name = ref('')
const error = ref('')
async function make() {
  error.value = ''
  try {
    const s = await take(
      api.POST('/studios', {
        body: {
          name: name.value,
          timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
          language: navigator.language,
        },
      }),
    )
    await client.invalidateQueries({ queryKey: ['studios'] })
    await router.push(`/s/${s.slug}/first`)
  } catch (err) {
    error.value = err instanceof Error ? err.message : 'It was not made.'
  }
}
// a studio's document, as chosen: first looked at, then brought in
const doc = ref<File | null>(null)
const seen = ref('')
const wrong = ref('')
async function look(file: File) {
  seen.value = wrong.value = ''
  doc.value = null
  try {
    const text = await file.text()
    seen.value = (await take(api.POST('/studios/import/look', { body: text, bodySerializer: (b) => b }))).says
    doc.value = file
  } catch (err) {
    wrong.value = err instanceof Error ? err.message : 'It cannot be read.'
  }
}
const step = ref<Line>()
type Line = { done: number; of: number; row?: { slug: string }; problem?: Problem }
const AWAY = 'The server does not answer: nothing was brought in. The file is still chosen: try once more.'
async function bring() {
  if (!doc.value || step.value) return
  wrong.value = ''
  step.value = { done: 0, of: 0 }
  try {
    const answer = await fetch('/api/studios/import/lines', {
      method: 'POST',
      body: doc.value,
      headers: { 'Content-Type': 'application/json' },
    })
    if (!answer.ok || !answer.body) throw new Error(((await answer.json()) as Problem).detail)
    const last = await follow(answer.body)
    if (!last?.row) throw new Error(last?.problem?.detail ?? AWAY)
    await client.invalidateQueries({ queryKey: ['studios'] })
    await router.push(`/s/${last.row.slug}/bench`)
  } catch (err) {
    wrong.value = err instanceof TypeError || !(err instanceof Error) ? AWAY : err.message
  } finally {
    step.value = undefined
  }
}
/** Reads the lines in which the server says how far it is; the last one is what came of it. */
async function follow(body: ReadableStream<Uint8Array<ArrayBuffer>>) {
  const lines = body.pipeThrough(new TextDecoderStream()).getReader()
  for (let rest = ''; ;) {
    const { value, done } = await lines.read()
    if (done) return step.value
    const parts = (rest + value).split('\n')
    rest = parts.pop() ?? ''
    const last = parts[parts.length - 1]
    if (last) step.value = JSON.parse(last) as Line
  }
}
</script>

<template>
  <div class="stack studios">
    <h1>Whose kitchen is it?</h1>
    <LoadState :error="studios.error.value" :loading="studios.isPending.value" @again="studios.refetch()" />
    <ul v-if="studios.data.value" class="list">
      <li v-for="s in studios.data.value" :key="s.slug">
        <RouterLink :to="`/s/${s.slug}/bench`" class="flour">{{ s.name }}</RouterLink>
      </li>
    </ul>
    <p v-if="studios.data.value?.length === 0">No studio yet: name yours, and it opens.</p>
    <form class="flour own" @submit.prevent="make">
      <label for="own">A studio of your own, empty</label>
      <div class="row">
        <InputText id="own" v-model="name" autocomplete="off" :invalid="!!error" />
        <Button type="submit" label="Open it" />
      </div>
      <p v-if="error" class="danger" role="alert">{{ error }}</p>
    </form>
    <section class="flour own">
      <FilePick
        label="Bring a studio in"
        accept="application/json,.json"
        hint="its document, JSON, up to 128 MB"
        @file="look"
      />
      <p v-if="wrong" class="danger" role="alert">{{ wrong }}</p>
      <template v-if="doc">
        <p role="status">{{ seen }}</p>
        <p v-if="step" role="status" class="far">
          <progress
            :max="step.of || undefined"
            :value="step.of ? step.done : undefined"
            aria-label="Bringing it in"
          ></progress>
          {{ step.of ? `${step.done} of ${step.of} rows are written` : 'The document is read' }}
        </p>
        <Button label="Bring it in" :loading="!!step" @click="bring" />
      </template>
    </section>
  </div>
</template>

<style scoped>
.studios {
  max-width: 620px;
  margin: 6vh auto 0;
}
.list {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 10px;
}
.list a {
  display: block;
  padding: 18px 20px;
  font-family: 'Fraunces Variable', serif;
  font-size: 22px;
  color: var(--ink);
  text-decoration: none;
}
.far {
  margin: 0;
  font-variant-numeric: tabular-nums;
}
.far progress {
  display: block;
  width: 100%;
  height: 10px;
  accent-color: var(--fern);
}
.own {
  padding: 18px 20px;
  display: grid;
  gap: 8px;
}
</style>
