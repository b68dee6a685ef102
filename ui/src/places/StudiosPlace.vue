<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '../api/client'
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
    const s = await take(api.POST('/studios', { body: { name: name.value } }))
    await client.invalidateQueries({ queryKey: ['studios'] })
    await router.push(`/s/${s.slug}/kitchen`)
  } catch (err) {
    error.value = err instanceof Error ? err.message : 'It was not made.'
  }
}
// a studio's document, as chosen: first looked at, then brought in
const doc = ref('')
const seen = ref('')
const wrong = ref('')
async function look(file: File) {
  seen.value = wrong.value = doc.value = ''
  try {
    const text = await file.text()
    seen.value = (await take(api.POST('/studios/import/look', { body: text, bodySerializer: (b) => b }))).says
    doc.value = text
  } catch (err) {
    wrong.value = err instanceof Error ? err.message : 'It cannot be read.'
  }
}
async function bring() {
  try {
    const s = await take(api.POST('/studios/import', { body: doc.value, bodySerializer: (b) => b }))
    await client.invalidateQueries({ queryKey: ['studios'] })
    await router.push(`/s/${s.slug}/bench`)
  } catch (err) {
    wrong.value = err instanceof Error ? err.message : 'It was not brought in.'
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
        hint="its document, JSON, up to 16 MB"
        @file="look"
      />
      <p v-if="wrong" class="danger" role="alert">{{ wrong }}</p>
      <template v-if="doc">
        <p role="status">{{ seen }}</p>
        <Button label="Bring it in" @click="bring" />
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
.own {
  padding: 18px 20px;
  display: grid;
  gap: 8px;
}
</style>
