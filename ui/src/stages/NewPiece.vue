<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, onBeforeUnmount, reactive, ref, watch } from 'vue'
import { api, Refused, take } from '../api/client'
import { useAct, useOffers, useStudio, useTools, type Wish } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import NewRow from '../parts/NewRow.vue'
import NewTool from '../parts/NewTool.vue'
import ToolPicture from '../pictures/ToolPicture.vue'

// A new piece begins from what it is to look like (ways that this drawer can make), from a tool, or like last time.
const props = defineProps<{ commission: number }>()
const emit = defineEmits<{ made: [id: number]; leave: [] }>()
const studio = useStudio()
const typed = reactive<Wish>({ look: '', count: '', size: '', eaten: '' })
const wish = ref<Wish>({ ...typed })
// asked when the typing rests, not at each letter
let rest = 0
watch(typed, () => {
  window.clearTimeout(rest)
  rest = window.setTimeout(() => (wish.value = { ...typed }), 300)
})
onBeforeUnmount(() => window.clearTimeout(rest))
const offers = useOffers(
  () => props.commission,
  () => wish.value,
)
const wrong = computed(() => {
  const e = offers.error.value
  return e instanceof Refused && e.problem.fields?.length ? e.problem.fields[0] : undefined
})
const eats = [
  { code: '', say: 'however' },
  { code: 'mouthful', say: 'as a mouthful' },
  { code: 'nibbled', say: 'nibbled' },
  { code: 'shown', say: 'only shown' },
]
const tools = useTools()
const from = ref<'ways' | 'tool' | 'before'>('ways')
const preset = ref<Record<string, string>>()
const says = ref('')
const measuring = ref(false)
const shaping = computed(() => (tools.data.value ?? []).filter((t) => t.ways.length))
const can = computed(() => (offers.data.value?.ways ?? []).filter((w) => !w.lacks))
const cannot = computed(() => (offers.data.value?.ways ?? []).filter((w) => w.lacks))
const most = computed(() => Math.max(1, ...can.value.map((w) => w.handsMinutes)))
const again = useAct((s, id: number) =>
  take(
    api.POST('/s/{studio}/pieces/{id}/again/{commission}', {
      params: { path: { studio: s, id, commission: props.commission } },
    }),
  ),
)
function begin(set: Record<string, string>, words: string) {
  preset.value = set
  says.value = words
}
async function like(id: number) {
  emit('made', (await again.mutateAsync(id)).id)
}
function measured(id: number) {
  measuring.value = false
  begin({ tool: String(id) }, 'made with the new tool')
}
const scale = (p: { highMM: number; acrossMM: number }) => Math.min(1, 44 / Math.max(p.highMM, 1), 90 / p.acrossMM)
const asked = ['name', 'wanted', 'tool', 'technique', 'colour', 'swatch', 'eaten', 'stance']
</script>

<template>
  <NewTool v-if="measuring" label="Put it into the drawer" @made="measured" @leave="measuring = false" />
  <div v-else-if="preset" class="stack">
    <p class="quiet">
      {{ says }} <Button label="Begin otherwise" size="small" severity="secondary" text @click="preset = undefined" />
    </p>
    <NewRow
      kind="pieces"
      :parent="commission"
      :only="asked"
      :preset="preset"
      label="Put it on the list"
      @made="(id) => emit('made', id)"
      @leave="emit('leave')"
    />
  </div>
  <div v-else class="stack">
    <div class="row" role="group" aria-label="Begin from">
      <Button
        label="What it is to look like"
        :outlined="from !== 'ways'"
        :aria-pressed="from === 'ways'"
        severity="secondary"
        @click="from = 'ways'"
      />
      <Button
        label="A tool"
        :outlined="from !== 'tool'"
        :aria-pressed="from === 'tool'"
        severity="secondary"
        @click="from = 'tool'"
      />
      <Button
        label="Like last time"
        :outlined="from !== 'before'"
        :aria-pressed="from === 'before'"
        severity="secondary"
        @click="from = 'before'"
      />
      <Button label="Only a name" severity="secondary" text @click="begin({}, 'how it is made is said later')" />
      <Button label="Leave it" severity="secondary" text class="right" @click="emit('leave')" />
    </div>
    <div v-if="from === 'ways'" class="row wish" role="group" aria-label="What is wanted">
      <label>It looks like <InputText v-model="typed.look" autocomplete="off" placeholder="flower" /></label>
      <label
        >How many
        <InputText v-model="typed.count" inputmode="numeric" placeholder="12" :invalid="wrong?.field === 'count'" />
        <span v-if="wrong?.field === 'count'" class="danger small" role="alert">{{ wrong.detail }}</span>
      </label>
      <label
        >How long <InputText v-model="typed.size" placeholder="30 mm" :invalid="wrong?.field === 'size'" />
        <span v-if="wrong?.field === 'size'" class="danger small" role="alert">{{ wrong.detail }}</span>
      </label>
      <label
        >Eaten
        <Select
          v-model="typed.eaten"
          :options="eats"
          option-label="say"
          option-value="code"
          placeholder="however"
          aria-label="Eaten"
        />
      </label>
    </div>
    <LoadState
      :error="wrong ? null : offers.error.value"
      :loading="offers.isPending.value && !wrong"
      @again="offers.refetch()"
    />
    <template v-if="from === 'ways' && offers.data.value">
      <template v-if="!can.some((w) => w.toolId)">
        <p class="soon">The drawer holds no tool yet that a piece is made with.</p>
        <Button label="Measure a new tool" class="first" @click="measuring = true" />
        <p v-if="can.length" class="quiet">Or with hands, board and knife:</p>
      </template>
      <ul v-if="can.length" class="flour ways">
        <li v-for="w in can" :key="w.key">
          <button
            type="button"
            class="way"
            @click="
              begin(
                {
                  technique: w.key,
                  tool: w.toolId ? String(w.toolId) : '',
                  ...(wish.count ? { wanted: wish.count } : {}),
                  ...(wish.eaten ? { eaten: wish.eaten } : {}),
                },
                w.name,
              )
            "
          >
            <span class="name"
              ><b>{{ w.name }}</b> <span class="quiet small">{{ w.about }}</span>
              <span class="quiet small"
                >{{ w.toolName || 'with hands' }}<template v-if="w.size">, {{ w.size }}</template
                ><template v-if="w.besides.length">; not in the drawer: {{ w.besides.join(', ') }}</template></span
              ></span
            >
            <span class="of">
              <span class="bar" :style="{ width: `${(100 * w.handsMinutes) / most}%` }" aria-hidden="true"></span>
              <b>{{ w.hands }}</b> <span class="quiet small">of hands for {{ wish.count || 'a dozen' }}</span>
            </span>
            <span class="small">{{ w.wait }}</span>
            <span class="small"
              >{{ w.breakage }}<template v-if="w.yours">, {{ w.yours }}</template></span
            >
            <span class="small"
              >{{ w.paste }}, {{ w.taste }}<b v-if="w.buy" class="soon"> {{ w.buy }}</b></span
            >
          </button>
        </li>
      </ul>
      <details v-if="cannot.length" :open="!can.some((w) => w.toolId)">
        <summary>
          {{ cannot.length }} {{ can.length ? 'more ways' : 'ways' }}, for which the drawer lacks a tool
        </summary>
        <ul class="plain">
          <li v-for="w in cannot" :key="w.key">
            <b>{{ w.name }}</b> <span class="quiet small">{{ w.about }}</span> <span class="soon">{{ w.lacks }}</span>
          </li>
        </ul>
      </details>
    </template>
    <template v-else-if="from === 'tool'">
      <ul class="flour tools">
        <li v-for="t in shaping" :key="t.id">
          <button type="button" class="tool" @click="begin({ tool: String(t.id) }, `made with ${t.name}`)">
            <ToolPicture :picture="t.picture" :scale="scale(t.picture)" :most="1" />
            <b>{{ t.name }}</b>
            <span class="quiet small">{{ t.ways[0] }}</span>
          </button>
        </li>
      </ul>
      <p v-if="!shaping.length" class="quiet">No tool that shapes a piece is in the drawer yet.</p>
      <Button label="Measure a new tool" severity="secondary" outlined @click="measuring = true" />
    </template>
    <template v-else-if="from === 'before' && offers.data.value">
      <p v-if="!offers.data.value.before.length" class="quiet">No order is done yet: there is no last time.</p>
      <ul v-else class="flour plain">
        <li v-for="b in offers.data.value.before" :key="b.pieceId" class="row">
          <span class="pat" :style="{ background: b.swatch }" aria-hidden="true"></span>
          <span
            ><b>{{ b.name }}</b> <span class="quiet small">{{ b.order }}, {{ b.when }}</span
            ><br /><span class="small"
              >{{ b.went }}<template v-if="b.with">, with {{ b.with }}</template></span
            ></span
          >
          <Button label="Make it again" severity="secondary" outlined class="right" @click="like(b.pieceId)" />
        </li>
      </ul>
    </template>
    <RouterLink :to="`/s/${studio}/ways`" class="small">How each way is made, step by step</RouterLink>
  </div>
</template>

<style scoped>
.right {
  margin-left: auto;
}
.first {
  align-self: flex-start;
  justify-self: start;
}
.ways,
.tools,
.plain {
  list-style: none;
  margin: 0;
  padding: 8px;
}
.plain {
  padding: 12px 18px;
  display: grid;
  gap: 10px;
}
.wish {
  gap: 8px 18px;
}
.wish label {
  display: inline-flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.wish :deep(input) {
  width: 110px;
}
.wish :deep(.p-select) {
  min-width: 150px;
}
.way {
  width: 100%;
  display: grid;
  grid-template-columns: minmax(0, 2.4fr) minmax(0, 1.2fr) minmax(0, 0.8fr) minmax(0, 0.9fr) minmax(0, 1.1fr);
  gap: 4px 16px;
  align-items: center;
  font: inherit;
  color: var(--ink);
  text-align: left;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--linen);
  padding: 10px;
  cursor: pointer;
}
.way:hover,
.tool:hover {
  background: var(--sage-light);
}
.name {
  display: grid;
}
.of {
  position: relative;
}
.bar {
  display: block;
  height: 5px;
  border-radius: 3px;
  background: var(--fern);
  margin-bottom: 3px;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.tool {
  width: 150px;
  min-height: 116px;
  display: grid;
  justify-items: center;
  align-content: end;
  gap: 4px;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 1px solid transparent;
  border-radius: 10px;
  padding: 10px;
  cursor: pointer;
}
summary {
  cursor: pointer;
  color: var(--fern);
  font-weight: 600;
  padding: 6px 0;
}
@media (max-width: 900px) {
  .way {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  .name,
  .of {
    grid-column: 1 / -1;
  }
}
</style>
