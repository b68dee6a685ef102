<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '../api/client'
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
