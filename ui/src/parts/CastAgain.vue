<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, Refused, take, type ToolView } from '../api/client'
import { useAct } from '../api/queries'
import WhyNumber from './WhyNumber.vue'

// A home-made mould: how often it was melted and cast again, and whether a bought one had been cheaper.
const props = defineProps<{ tool: ToolView }>()
const fault = ref('')
const recast = useAct((s, id: number) =>
  take(api.POST('/s/{studio}/tools/{id}/cast', { params: { path: { studio: s, id } } })),
)
async function again() {
  fault.value = ''
  try {
    await recast.mutateAsync(props.tool.id)
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not kept.'
  }
}
</script>

<template>
  <section v-if="tool.cast" class="cast" aria-label="Bought or made?">
    <h3>Bought or made?</h3>
    <p :class="{ soon: tool.cast.worn }">{{ tool.cast.says }}</p>
    <p v-if="tool.cast.figure">
      <b>{{ tool.cast.figure.text }}</b> <span class="quiet small">{{ tool.cast.figure.unit }}</span>
      <WhyNumber :why="tool.cast.figure.why" :of="`${tool.cast.figure.text} ${tool.cast.figure.unit}`" />
    </p>
    <p class="quiet">{{ tool.cast.worth }}</p>
    <div class="row">
      <Button label="Melted and cast again" severity="secondary" outlined @click="again" />
    </div>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
  </section>
</template>

<style scoped>
.cast {
  border-top: 1px solid var(--linen);
  padding-top: 10px;
  display: grid;
  gap: 6px;
}
.cast h3 {
  font: inherit;
  font-size: 14px;
  color: var(--quiet);
}
</style>
