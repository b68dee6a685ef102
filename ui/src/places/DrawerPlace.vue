<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, Refused, take, type RowView } from '../api/client'
import { useAct, useTools } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import NewRow from '../parts/NewRow.vue'
import RowForm from '../parts/RowForm.vue'
import { offerUndo } from '../parts/undo'
import { useWords } from '../words/words'

const w = useWords()
const rows = useTools()
const open = ref(0)
const adding = ref(false)
const fault = ref('')
const chosen = computed(() => rows.data.value?.find((r) => r.id === open.value))
const remove = useAct((s, x: { id: number; back: boolean }) => {
  const params = { params: { path: { studio: s, kind: 'tools' as const, id: x.id } } }
  return take(
    x.back
      ? api.POST('/s/{studio}/rows/{kind}/{id}/restore', params)
      : api.POST('/s/{studio}/rows/{kind}/{id}/remove', params),
  )
})
async function away(r: RowView) {
  fault.value = ''
  try {
    await remove.mutateAsync({ id: r.id, back: false })
    offerUndo(`${r.name}: taken away.`, () => void remove.mutateAsync({ id: r.id, back: true }))
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not taken away.'
  }
}
function made(id: number) {
  adding.value = false
  open.value = id
}
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Tool drawer</h1>
      <span class="quiet">{{ w('moulds, and what they hold') }}</span>
      <Button class="right" :label="w('Add a mould')" @click="((adding = true), (open = 0))" />
    </header>
    <LoadState :error="rows.error.value" :loading="rows.isPending.value" @again="rows.refetch()" />
    <NewRow v-if="adding" kind="tools" :label="w('Add a mould')" @made="made" @leave="adding = false" />
    <p v-if="rows.data.value?.length === 0 && !adding" class="flour none">
      {{ w('No mould yet: measure one, and weigh a piece from it.') }}
    </p>
    <ul class="list">
      <li v-for="r in rows.data.value ?? []" :key="r.id" class="flour">
        <button type="button" class="line" :aria-expanded="open === r.id" @click="open = open === r.id ? 0 : r.id">
          <b>{{ r.name }}</b>
          <span v-for="s in r.says" :key="s" class="quiet">{{ s }}</span>
        </button>
        <div v-if="chosen && open === r.id" class="inside stack">
          <RowForm :id="r.id" kind="tools" :version="r.version" :fields="r.fields" />
          <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
          <div><Button label="Take it away" severity="secondary" outlined size="small" @click="away(r)" /></div>
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.right {
  margin-left: auto;
}
.none {
  padding: 24px;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
.line {
  width: 100%;
  min-height: 54px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: center;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  padding: 10px 18px;
  text-align: left;
  cursor: pointer;
}
.line b {
  min-width: 210px;
}
.inside {
  padding: 4px 18px 18px;
}
</style>
