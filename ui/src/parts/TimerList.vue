<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { api, take, type TimerView } from '../api/client'
import { left, useClock } from '../api/clock'
import { useBenchAct } from '../api/queries'
import TimerCord from '../pictures/TimerCord.vue'
import { chime, silent, allowSound } from './sound'

const props = defineProps<{ timers: TimerView[] }>()
// what is further away than this is among the waits
const NEAR = 2 * 3600_000
const now = useClock()
const answer = useBenchAct((s, id: string) =>
  take(api.POST('/s/{studio}/timers/{id}/answer', { params: { path: { studio: s, id } } })),
)
const list = computed(() =>
  props.timers
    .filter((t) => t.kind === 'own' || t.rings < now.value + NEAR)
    .map((t) => ({
      ...t,
      ringing: now.value >= t.rings,
      left: left(t.rings - now.value),
      share: (now.value - t.starts) / Math.max(1, t.rings - t.starts),
    }))
    .sort((a, b) => Number(b.ringing) - Number(a.ringing) || a.rings - b.rings),
)
const ringing = computed(() => list.value.filter((t) => t.ringing).length)
let bell = 0
watch(
  ringing,
  (n) => {
    window.clearInterval(bell)
    if (n === 0) return
    chime()
    bell = window.setInterval(chime, 2000)
  },
  { immediate: true },
)
onBeforeUnmount(() => window.clearInterval(bell))
// one flash a second, by the clock that ticks anyway: an animation would be drawn sixty times
const pale = computed(() => Math.floor(now.value / 500) % 2 === 1)
// what rings stands first; a bench of a hundred clocks draws the rest when they are asked for
const SHOWN = 8
const whole = ref(false)
const shown = computed(() => (whole.value ? list.value : list.value.slice(0, SHOWN)))
const fault = ref('')
async function stop(id: string) {
  void allowSound()
  fault.value = ''
  try {
    await answer.mutateAsync(id)
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not answered.'
  }
}
</script>

<template>
  <section class="timers" :class="{ rings: ringing > 0 }" aria-label="Timers">
    <p v-if="ringing && silent" class="mute">
      <Button label="Sound is off, touch once" severity="secondary" outlined @click="allowSound" />
    </p>
    <article v-for="t in shown" :key="t.id" class="timer" :class="{ ringing: t.ringing, pale: t.ringing && pale }">
      <div class="what">
        <p :role="t.ringing ? 'alert' : undefined">{{ t.ringing ? t.rang : t.says }}</p>
        <p v-if="t.then[0]" class="quiet small">then {{ t.then[0].says }}</p>
        <div class="count">
          <p class="big" role="timer">
            <template v-if="t.ringing">now</template><template v-else>{{ t.left }}</template>
            <span v-if="t.kind === 'own'" class="quiet until">{{ t.ringsSays }}</span>
          </p>
          <TimerCord :share="t.share" :kind="t.cord" :ringing="t.ringing" />
        </div>
      </div>
      <Button
        :label="t.ringing ? 'I hear' : 'Stop'"
        :severity="t.ringing ? undefined : 'secondary'"
        :text="!t.ringing"
        class="answer"
        :aria-label="`${t.ringing ? 'I hear' : 'Stop'}: ${t.says}`"
        @click="stop(t.id)"
      />
    </article>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <p v-if="list.length > SHOWN" class="mute">
      <Button
        :label="whole ? 'Show the next ones only' : `Show all ${list.length} timers`"
        severity="secondary"
        outlined
        @click="whole = !whole"
      />
    </p>
  </section>
</template>

<style scoped>
.timers {
  display: grid;
  gap: 8px;
}
.timer {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: center;
  border-top: 1px solid var(--linen);
  padding: 8px 6px;
}
.what p {
  margin: 2px 0;
}
.big {
  font-size: 24px;
}
.until {
  font:
    400 14px 'Figtree Variable',
    sans-serif;
  margin-left: 10px;
}
.answer {
  min-height: 64px;
  min-width: 84px;
}
.ringing {
  border: 3px solid var(--rosehip);
  border-radius: 10px;
  background: var(--honey-fill);
}
.ringing.pale {
  background: var(--flour);
}
.ringing .quiet {
  color: var(--ink);
}
.mute {
  margin: 0;
}
@media (prefers-reduced-motion: reduce) {
  .ringing.pale {
    background: var(--honey-fill);
  }
}
.count {
  display: flex;
  align-items: center;
  gap: 14px;
}
.count :deep(svg) {
  width: 96px;
  height: 26px;
}
</style>
