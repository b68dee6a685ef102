<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '../api/client'
import { useStudio } from '../api/queries'

// One field over everything that has a name; arrows choose, Enter goes there.
const visible = defineModel<boolean>('visible')
const studio = useStudio()
const router = useRouter()
const text = ref('')
const found = useQuery({
  queryKey: ['find', studio, text],
  queryFn: () =>
    take(api.GET('/s/{studio}/find', { params: { path: { studio: studio.value }, query: { text: text.value } } })),
  enabled: () => text.value.trim() !== '',
  placeholderData: (before) => before,
})
const at = ref(0)
watch(text, () => (at.value = 0))
const says = { commission: 'order', piece: 'piece', lot: 'pantry', tool: 'tool drawer' }
async function go(to?: string) {
  if (!to) return
  visible.value = false
  await router.push(`/s/${studio.value}/${to}`)
}
function move(by: number) {
  const n = found.data.value?.length ?? 0
  if (n) at.value = (at.value + by + n) % n
}
</script>

<template>
  <Dialog v-model:visible="visible" modal dismissable-mask header="Find" :style="{ width: 'min(560px, 94vw)' }">
    <InputText
      v-model="text"
      autofocus
      fluid
      maxlength="60"
      aria-label="Find an order, a piece, a lot or a tool"
      placeholder="an order, a piece, a lot, a tool"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter="go(found.data.value?.[at]?.to)"
    />
    <ul v-if="text.trim()" class="found" role="listbox" aria-label="Found">
      <li
        v-for="(f, i) in found.data.value ?? []"
        :key="f.to"
        role="option"
        :aria-selected="i === at"
        :class="{ on: i === at }"
        @click="go(f.to)"
      >
        <b>{{ f.name }}</b> <span class="quiet small">{{ says[f.kind] }}{{ f.says && `, ${f.says}` }}</span>
      </li>
    </ul>
    <p v-if="text.trim() && found.data.value?.length === 0" class="quiet">Nothing here is called that.</p>
  </Dialog>
</template>

<style scoped>
.found {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
}
.found li {
  min-height: 44px;
  padding: 10px 12px;
  border-top: 1px solid var(--linen);
  cursor: pointer;
}
.found li.on {
  background: var(--sage);
}
</style>
