<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, ref, watch } from 'vue'
import { useRound, useStudio } from '../api/queries'
import WhyNumber from './WhyNumber.vue'

// How pieces stand round a tier, and the strip that marks their places: to print at true size, cut out and hold to it.
const props = defineProps<{ piece: number; swatch: string }>()
const studio = useStudio()
const tier = ref(0)
const typed = ref('')
const count = ref(0)
const round = useRound(
  () => props.piece,
  () => tier.value,
  () => count.value,
)
const v = computed(() => round.data.value?.round)
const fault = computed(() => (round.error.value instanceof Error ? round.error.value.message : ''))
watch(typed, (t) => {
  const n = Number(t)
  if (t.trim() === '' || (Number.isInteger(n) && n >= 0 && n <= 400)) count.value = t.trim() === '' ? 0 : n
})
const wrong = computed(() => typed.value.trim() !== '' && !/^\d{1,3}$/.test(typed.value.trim()))
const tiers = computed(() => (v.value?.tiers ?? []).map((say, code) => ({ say, code })))
const print = (as: string) =>
  `/api/s/${studio.value}/print/strip/${props.piece}/${as}?tier=${tier.value}&count=${count.value}`
const figures = computed(() => [v.value?.pitch, v.value?.gap].filter((f) => !!f))
const HIGH = 12
// every mark is drawn; numbers only where they have room
const every = computed(() => Math.max(1, Math.ceil((v.value?.count ?? 1) / 24)))
</script>

<template>
  <section v-if="v || fault" class="round" aria-label="Round the tier">
    <h3>Round the tier</h3>
    <div class="row asks">
      <label v-if="tiers.length > 1"
        >Tier
        <Select v-model="tier" :options="tiers" option-label="say" option-value="code" aria-label="Tier" />
      </label>
      <label
        >How many
        <InputText
          v-model="typed"
          inputmode="numeric"
          :placeholder="String(v?.usual ?? '')"
          :invalid="wrong"
          aria-label="How many go round"
        />
      </label>
    </div>
    <p v-if="wrong" class="danger" role="alert">A whole number, up to 400; empty: {{ v?.usual }}.</p>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <template v-if="v">
      <p>{{ v.says }}</p>
      <div class="row figures">
        <span v-for="f in figures" :key="f.unit">
          <span class="big">{{ f.text }}</span>
          <span class="quiet small">{{ f.unit }} <WhyNumber :why="f.why" :of="`${f.text}, ${f.unit}`" /></span>
        </span>
      </div>
      <svg
        :viewBox="`-4 -1 ${v.longMM + 8} ${HIGH * (v.longMM / 300) + 2}`"
        class="strip"
        role="img"
        :aria-label="`The marking strip: ${v.says}`"
      >
        <g :transform="`scale(1 ${v.longMM / 300})`">
          <rect :width="v.longMM" :height="HIGH" class="paper" />
          <path
            v-for="(m, i) in v.marks"
            :key="i"
            :d="`M${m.atMM} 0v${m.corner ? HIGH : HIGH * 0.45}`"
            :class="{ corner: m.corner }"
          />
        </g>
        <template v-for="(m, i) in v.marks" :key="`t${i}`">
          <text
            v-if="!m.corner && (Number(m.says) - 1) % every === 0"
            :x="m.atMM"
            :y="HIGH * 0.85 * (v.longMM / 300)"
            :font-size="v.longMM / 75"
          >
            {{ m.says }}
          </text>
        </template>
      </svg>
      <ul class="notes">
        <li v-for="n in v.notes" :key="n">{{ n }}</li>
      </ul>
      <div class="row">
        <a :href="print('pdf')" target="_blank" rel="noopener">Print the marking strip at true size (PDF)</a>
        <a :href="print('svg')" target="_blank" rel="noopener">as a drawing (SVG)</a>
        <span class="quiet small">{{ v.pages }}</span>
      </div>
    </template>
  </section>
</template>

<style scoped>
.round {
  margin: 22px 0;
}
.round p {
  margin: 4px 0;
}
.asks {
  gap: 8px 22px;
}
.asks label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.asks input {
  width: 90px;
}
.figures {
  gap: 6px 28px;
}
.big {
  font-size: 26px;
  margin-right: 8px;
}
.strip {
  display: block;
  width: min(100%, 760px);
  margin: 8px 0;
}
.strip * {
  vector-effect: non-scaling-stroke;
}
.paper {
  fill: var(--flour);
  stroke: var(--quiet);
}
.strip path {
  stroke: var(--ink);
  stroke-width: 1.4;
  fill: none;
}
.strip path.corner {
  stroke-dasharray: 4 3;
}
.strip text {
  text-anchor: middle;
  fill: var(--ink);
}
.notes {
  margin: 6px 0;
  padding-left: 18px;
}
</style>
