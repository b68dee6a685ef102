<script setup lang="ts">
import Button from 'primevue/button'
import { computed, defineAsyncComponent, ref } from 'vue'
import { api, take, type BenchView, type Tally } from '../api/client'
import { useBenchAct } from '../api/queries'

// How many of each piece are whole; a break can be told at any time, by touch and by key.
const props = defineProps<{ bench: BenchView; first?: number }>()
const breakable = computed(() => props.bench.tallies.filter((t) => t.made > t.broken))
const broke = useBenchAct((s, x: { op: string; version: number; why: string }) =>
  take(api.POST('/s/{studio}/bench/{op}/broke/{version}/{why}', { params: { path: { studio: s, ...x } } })),
)
// the dialog comes when it is wanted: the bench is the first page that is loaded
const BrokeDialog = defineAsyncComponent(() => import('./BrokeDialog.vue'))
const asking = ref(false)
const wanted = ref(false)
const fault = ref('')
function ask() {
  fault.value = breakable.value.length ? '' : 'There is no whole piece yet that could break.'
  asking.value = !fault.value
  wanted.value ||= asking.value
}
async function say(t: Tally, why: string) {
  asking.value = false
  try {
    await broke.mutateAsync({ op: t.op, version: t.version, why })
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not marked.'
  }
}
defineExpose({ ask })
</script>

<template>
  <section v-if="bench.tallies.length || fault" aria-label="Count">
    <p v-for="t in bench.tallies" :key="t.pieceId" class="one">
      <span
        >{{ t.name }}: <b>{{ t.made - t.broken }}</b> whole of {{ t.wanted
        }}<template v-if="t.broken">, {{ t.broken }} broken</template></span
      >
      <span class="quiet small">{{ t.by }}</span>
    </p>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <p v-if="breakable.length"><Button label="One broke" severity="secondary" outlined @click="ask" /> <kbd>X</kbd></p>
    <BrokeDialog
      v-if="wanted"
      v-model:visible="asking"
      :breakable="breakable"
      :first="first"
      :reasons="bench.reasons"
      @broke="say"
    />
  </section>
</template>

<style scoped>
.one {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  border-top: 1px solid var(--linen);
  padding: 6px 0;
  margin: 0;
}
</style>
