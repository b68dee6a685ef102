<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { ref } from 'vue'
import { api, take } from '../api/client'
import { useThermometer } from '../api/devices'
import { useStudio } from '../api/queries'

// The pan while something is cooked in it: the temperature large, the stage by its name, and what to do now.
const props = defineProps<{ op: string; visible: boolean; cautions: string[] }>()
const emit = defineEmits<{ 'update:visible': [on: boolean] }>()
const studio = useStudio()
const pan = useThermometer(
  () => props.op,
  () => props.visible,
)
const v = pan.data
const fault = ref('')
async function behave(mode: string) {
  fault.value = ''
  try {
    await take(
      api.POST('/s/{studio}/thermometer/standIn', { params: { path: { studio: studio.value } }, body: { mode } }),
    )
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'The thermometer does not answer.'
  }
}
const modes = ['off', 'heating', 'open probe', 'unplugged']
const place = () => Math.min(1.1, v.value?.place ?? 0)
</script>

<template>
  <Dialog
    :visible="visible"
    modal
    dismissable-mask
    header="The pan"
    :style="{ width: 'min(620px, 96vw)' }"
    @update:visible="(on: boolean) => emit('update:visible', on)"
  >
    <div v-if="v" class="pan">
      <template v-if="v.plugged">
        <p class="live" :class="v.verdict" aria-live="off">{{ v.text }}</p>
        <p>
          <b>{{ v.stage || 'not a stage yet' }}</b> <span class="quiet">{{ v.aim }}</span>
        </p>
        <svg viewBox="0 0 220 40" class="column" aria-hidden="true">
          <rect x="2" y="14" width="216" height="14" rx="7" class="glass" />
          <rect x="196" y="8" width="10" height="26" class="aim" />
          <rect x="2" y="14" :width="196 * place()" height="14" rx="7" class="rise" :class="v.verdict" />
        </svg>
        <p class="say" role="status">{{ v.says }}</p>
      </template>
      <p v-else class="soon" role="status">
        {{ v.why }}. Without it: a drop in cold water cracks hard and does not bend. {{ v.aim }}
      </p>
      <ul class="cautions">
        <li v-for="c in cautions" :key="c">{{ c }}</li>
      </ul>
      <div v-if="v.standIn" class="row" role="group" aria-label="The pan is a stand-in">
        <span class="quiet small">The pan is a stand-in and heats 20 times as fast:</span>
        <Button
          v-for="m in modes"
          :key="m"
          :label="m"
          size="small"
          severity="secondary"
          :outlined="v.mode !== m"
          :aria-pressed="v.mode === m"
          @click="behave(m)"
        />
      </div>
      <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    </div>
  </Dialog>
</template>

<style scoped>
.pan {
  display: grid;
  gap: 8px;
}
.pan p {
  margin: 0;
}
.live {
  font-family: 'Fraunces Variable', Fraunces, Georgia, serif;
  font-size: clamp(64px, 14vw, 120px);
  line-height: 1.05;
  font-variant-numeric: tabular-nums;
}
.live.good {
  color: var(--fern);
}
.live.over {
  color: var(--rosehip);
}
.say {
  font-size: 20px;
  font-weight: 600;
}
.column {
  display: block;
  width: 100%;
  height: auto;
}
.glass {
  fill: var(--flour);
  stroke: var(--edge);
}
.aim {
  fill: var(--sage-light);
  stroke: var(--fern);
}
.rise {
  fill: var(--honey);
}
.rise.good {
  fill: var(--fern);
}
.rise.over {
  fill: var(--rosehip);
}
.cautions {
  font-size: 14px;
  color: var(--honey);
  margin: 0;
  padding-left: 20px;
}
</style>
