<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, take, type BenchView } from '../api/client'
import { useClock } from '../api/clock'
import { useBenchAct } from '../api/queries'

// Hands are called off a step, and come back to it: its clock stands still meanwhile.
const props = defineProps<{ bench: BenchView; op: string; version: number; kept?: boolean }>()
const now = useClock()
const wrong = ref('')
const off = useBenchAct((s, x: { op: string; version: number }) =>
  take(api.POST('/s/{studio}/bench/{op}/off/{version}', { params: { path: { studio: s, ...x } } })),
)
const on = useBenchAct((s, x: { op: string; version: number }) =>
  take(api.POST('/s/{studio}/bench/{op}/on/{version}', { params: { path: { studio: s, ...x } } })),
)
const away = computed(() => props.bench.away)
const minutes = computed(() => Math.max(0, Math.floor((now.value - (away.value?.sinceMs ?? 0)) / 60000)))
async function act(what: () => Promise<unknown>) {
  wrong.value = ''
  try {
    await what()
  } catch (err) {
    wrong.value = err instanceof Error ? err.message : String(err)
  }
}
</script>

<template>
  <section v-if="away" class="away" role="status">
    <p>
      <b>Called off since {{ away.since }}</b
      ><template v-if="minutes">, {{ minutes }} min</template>: {{ away.title }}. Its clock stands still.
    </p>
    <ul v-if="away.says.length">
      <li v-for="s in away.says" :key="s">{{ s }}</li>
    </ul>
    <Button
      label="I am back at it"
      class="tall"
      :loading="on.isPending.value"
      @click="act(() => on.mutateAsync({ op: away!.op, version: away!.version }))"
    />
  </section>
  <Button
    v-else-if="op"
    label="Called off"
    severity="secondary"
    outlined
    class="tall"
    title="Something else needs you: the clock of this step stands still until you are back"
    :disabled="kept"
    :loading="off.isPending.value"
    @click="act(() => off.mutateAsync({ op, version }))"
  />
  <p v-if="wrong" class="danger" role="alert">{{ wrong }}</p>
</template>

<style scoped>
.away {
  padding: 12px 16px;
  border-radius: 10px;
  background: var(--honey-fill);
}
.away p {
  margin: 0 0 6px;
}
ul {
  margin: 0 0 10px;
  padding-left: 18px;
}
.tall {
  min-height: 44px;
}
</style>
