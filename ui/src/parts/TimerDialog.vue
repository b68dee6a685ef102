<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { api, take } from '../api/client'
import { useBenchAct } from '../api/queries'

// A clock of one's own: usual minutes in one press, any other as it is typed.
const visible = defineModel<boolean>('visible')
const minutes = ref('')
const about = ref('')
const fault = ref('')
const timer = useBenchAct((s, x: { minutes: string; says: string }) =>
  take(api.POST('/s/{studio}/timers', { params: { path: { studio: s } }, body: x })),
)
async function start(m: string) {
  fault.value = ''
  try {
    await timer.mutateAsync({ minutes: m, says: about.value })
    minutes.value = about.value = ''
    visible.value = false
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not started.'
  }
}
</script>

<template>
  <Dialog v-model:visible="visible" modal dismissable-mask header="A timer" :style="{ width: 'min(560px, 96vw)' }">
    <div class="reasons">
      <Button
        v-for="m in ['3', '5', '8', '10', '15', '30']"
        :key="m"
        :label="`${m} min`"
        class="tall"
        @click="start(m)"
      />
    </div>
    <form class="stack own" @submit.prevent="start(minutes)">
      <label for="timer-minutes">or as long as</label>
      <InputText id="timer-minutes" v-model="minutes" autocomplete="off" placeholder="1 h 30" fluid />
      <label for="timer-about">What for</label>
      <InputText id="timer-about" v-model="about" autocomplete="off" fluid />
      <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
      <Button type="submit" label="Start it" class="tall" severity="secondary" outlined />
    </form>
  </Dialog>
</template>

<style scoped>
.own {
  gap: 8px;
}
</style>
