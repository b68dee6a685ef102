<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { api, take } from '../api/client'
import { usePortions, useScale } from '../api/devices'
import { useAct, useBenchAct, useStudio } from '../api/queries'
import BallRow from '../pictures/BallRow.vue'

// what is weighed is a ball of a press, or a piece of a tool beside the bench
const props = defineProps<{
  op: string
  visible: boolean
  tool?: { id: number; name: string }
  version?: number
  swatch?: string
}>()
const emit = defineEmits<{ 'update:visible': [on: boolean] }>()
const studio = useStudio()
const pairs = ref<'' | 'yes' | 'no'>('')
// a step in hand is portioned: its balls are weighed out one after the other
const portioning = computed(() => !props.tool && (props.version ?? 0) > 0)
const scale = useScale(
  () => props.op,
  () => props.visible,
  () => pairs.value,
)
const portions = usePortions(
  () => (props.visible && portioning.value ? props.op : ''),
  () => pairs.value,
)
const balls = computed(() => (portioning.value ? portions.data.value : undefined))
const inPairs = computed({
  get: () => balls.value?.pairs ?? false,
  set: (on: boolean) => (pairs.value = on ? 'yes' : 'no'),
})
const ball = useBenchAct((s, x: { grams: string; anyway: boolean }) =>
  take(
    api.POST('/s/{studio}/bench/{op}/portion/{version}', {
      params: { path: { studio: s, op: props.op, version: props.version ?? 0 }, query: { anyway: x.anyway } },
      body: { grams: x.grams },
    }),
  ),
)
const back = useBenchAct((s, version: number) =>
  take(
    api.POST('/s/{studio}/bench/{op}/portion/{version}/back', {
      params: { path: { studio: s, op: props.op, version } },
    }),
  ),
)
async function count(grams: string) {
  fault.value = told.value = ''
  try {
    await ball.mutateAsync({ grams, anyway: true })
    typed.value = ''
    await portions.refetch()
    scale.again()
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not kept.'
  }
}
async function off() {
  fault.value = told.value = ''
  try {
    await back.mutateAsync(props.version ?? 0)
    await portions.refetch()
    scale.again()
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not taken off.'
  }
}
const v = scale.data
const typed = ref('')
const fault = ref('')
const told = ref('')
watch(
  () => props.visible,
  () => (fault.value = told.value = typed.value = ''),
)
const keep = useBenchAct((s, grams: string) =>
  take(api.POST('/s/{studio}/bench/{op}/weigh', { params: { path: { studio: s, op: props.op } }, body: { grams } })),
)
const keepOf = useAct((s, x: { id: number; grams: string }) =>
  take(
    api.POST('/s/{studio}/tools/{id}/weigh', {
      params: { path: { studio: s, id: x.id } },
      body: { grams: x.grams },
    }),
  ),
)
async function save(grams: string) {
  fault.value = told.value = ''
  try {
    if (props.tool) await keepOf.mutateAsync({ id: props.tool.id, grams })
    else await keep.mutateAsync(grams)
    told.value = `Kept: ${grams}.`
    typed.value = ''
    scale.again()
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not kept.'
  }
}
async function ask(what: Promise<unknown>) {
  fault.value = ''
  try {
    await what
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'The scale does not answer.'
  }
}
const tare = () => ask(take(api.POST('/s/{studio}/scale/tare', { params: { path: { studio: studio.value } } })))
const put = () =>
  ask(
    take(
      api.POST('/s/{studio}/scale/standIn', {
        params: { path: { studio: studio.value } },
        body: { ball: props.op },
      }),
    ),
  )
const place = () => Math.min(1.45, Math.max(-0.45, v.value?.place ?? 0))
const verdicts = { none: '', under: 'too light', good: 'good', over: 'too heavy' }
</script>

<template>
  <Dialog
    :visible="visible"
    modal
    dismissable-mask
    :header="tool ? `Weigh one: ${tool.name}` : 'The scale'"
    :style="{ width: 'min(620px, 96vw)' }"
    @update:visible="(on: boolean) => emit('update:visible', on)"
  >
    <div v-if="v" class="scale">
      <template v-if="v.plugged">
        <p class="live" :class="v.verdict" aria-live="off">{{ v.text || 'moving' }}</p>
        <p class="quiet" role="status">
          {{ v.settled ? 'It lies still.' : 'Not still yet.' }}
          <b v-if="v.verdict !== 'none'">{{ v.off || verdicts[v.verdict] }}</b>
        </p>
        <svg v-if="v.verdict !== 'none'" viewBox="-60 0 220 44" class="band" aria-hidden="true">
          <path d="M-60 24H160" class="axis" />
          <rect x="0" y="14" width="100" height="20" rx="4" class="good" />
          <path :d="`M${place() * 100} 2v40`" class="at" :class="v.verdict" />
        </svg>
      </template>
      <p v-else class="soon" role="status">{{ v.why }}. Type the weight below.</p>
      <template v-if="balls">
        <p>
          <b>{{ balls.says }}</b> <span class="quiet">{{ balls.next }}</span>
        </p>
        <BallRow :portions="balls" :swatch="swatch || 'var(--linen)'" />
        <p v-if="balls.rope" class="quiet small">{{ balls.rope }}</p>
        <label class="pairs"><input v-model="inPairs" type="checkbox" /> two by two, each pair alike</label>
      </template>
      <p v-else-if="v.aim" class="quiet">{{ v.aim }}</p>
      <p v-if="v.weighed">{{ v.mould }}: {{ v.weighed }}</p>
      <div class="row">
        <Button
          v-if="v.plugged && balls"
          :label="`Keep it as ball ${balls.balls.length + 1}`"
          class="tall"
          :disabled="!v.settled"
          @click="count(`${v.settled.toFixed(2)} g`)"
        />
        <Button
          v-if="balls?.balls.length"
          label="Take the last one off"
          severity="secondary"
          outlined
          class="tall"
          @click="off"
        />
        <Button
          v-if="v.plugged"
          label="Keep it as a piece"
          :severity="balls ? 'secondary' : undefined"
          :outlined="!!balls"
          class="tall"
          :disabled="!v.settled"
          @click="save(`${v.settled.toFixed(2)} g`)"
        />
        <Button v-if="v.plugged" label="Tare" severity="secondary" outlined class="tall" @click="tare" />
        <Button
          v-if="v.standIn && v.plugged && !tool"
          label="Lay a ball on the stand-in"
          severity="secondary"
          outlined
          class="tall"
          @click="put"
        />
      </div>
      <form class="row" @submit.prevent="balls ? count(typed) : save(typed)">
        <label for="scale-typed">or typed</label>
        <InputText id="scale-typed" v-model="typed" autocomplete="off" placeholder="4.2 g" :invalid="!!fault" />
        <Button type="submit" label="Keep it" severity="secondary" outlined class="tall" :disabled="!typed" />
      </form>
      <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
      <p v-if="told" class="quiet" role="status">{{ told }}</p>
    </div>
  </Dialog>
</template>

<style scoped>
.scale {
  display: grid;
  gap: 6px;
}
.pairs {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
}
.pairs input {
  width: 22px;
  height: 22px;
  accent-color: var(--fern);
}
.scale p {
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
.band {
  width: 100%;
  height: 56px;
}
.axis {
  stroke: var(--linen);
  stroke-width: 2;
}
.good {
  fill: var(--sage-light);
  stroke: var(--fern);
}
.at {
  stroke: var(--rosehip);
  stroke-width: 4;
}
.at.good {
  stroke: var(--fern);
}
</style>
