<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, Refused, take, type ToolView } from '../api/client'
import { useAct, useMade, useStudio } from '../api/queries'
import ToolPicture from '../pictures/ToolPicture.vue'
import CastAgain from './CastAgain.vue'
import MachineSteps from './MachineSteps.vue'
import OwnDrawing from './OwnDrawing.vue'
import RowForm from './RowForm.vue'
import ScaleDialog from './ScaleDialog.vue'
import ToolPhoto from './ToolPhoto.vue'
import { offerUndo } from './undo'
import WhyNumber from './WhyNumber.vue'

const props = defineProps<{ tool: ToolView }>()
const studio = useStudio()
const fault = ref('')
const weighing = ref(false)
const made = useMade(() => props.tool.id)
const p = computed(() => props.tool.picture)
const scale = computed(() => Math.min(2, 190 / p.value.highMM, 260 / p.value.acrossMM))
const at = (g: number, w: NonNullable<ToolView['weighed']>) => 10 + (280 * (g - w.lo)) / Math.max(1e-9, w.hi - w.lo)
const params = (s: string) => ({ params: { path: { studio: s, kind: 'tools' as const, id: props.tool.id } } })
const remove = useAct((s, back: boolean) =>
  take(
    back
      ? api.POST('/s/{studio}/rows/{kind}/{id}/restore', params(s))
      : api.POST('/s/{studio}/rows/{kind}/{id}/remove', params(s)),
  ),
)
const copy = useAct((s, what: ToolView['copies'][number]['do']) =>
  take(
    api.POST('/s/{studio}/tools/{id}/copies/{do}', { params: { path: { studio: s, id: props.tool.id, do: what } } }),
  ),
)
async function attempt(what: () => Promise<unknown>) {
  fault.value = ''
  try {
    await what()
    return true
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'That was not done.'
    return false
  }
}
async function away() {
  const name = props.tool.name
  if (await attempt(() => remove.mutateAsync(false)))
    offerUndo(`${name}: taken away.`, () => void attempt(() => remove.mutateAsync(true)))
}
</script>

<template>
  <section class="flour inside" :aria-label="tool.name">
    <header class="row head">
      <h2>{{ tool.name }}</h2>
      <span class="quiet small">{{ tool.kind }}, {{ tool.says[2] }}</span>
    </header>
    <figure>
      <ToolPicture :picture="p" :scale="scale" :most="1" />
      <figcaption class="quiet small">{{ p.says }}</figcaption>
    </figure>
    <div v-if="tool.figures.length" class="figures">
      <div v-for="f in tool.figures" :key="f.unit">
        <p class="big">{{ f.text }}</p>
        <p class="quiet small">{{ f.unit }} <WhyNumber :why="f.why" :of="`${f.text}, ${f.unit}`" /></p>
      </div>
    </div>
    <svg v-if="tool.weighed" viewBox="0 0 300 42" class="dots" role="img" :aria-label="tool.weighed.says">
      <path d="M10 26H290" />
      <circle v-for="(g, i) in tool.weighed.grams" :key="i" :cx="at(g, tool.weighed)" cy="18" r="4" />
      <text x="10" y="40">{{ tool.weighed.from }}</text>
      <text x="290" y="40" text-anchor="end">{{ tool.weighed.to }}</text>
    </svg>
    <p v-if="tool.ways.length" class="quiet small">Pieces of it are made as: {{ tool.ways.join('; ') }}.</p>
    <div v-if="tool.ways.length && made.data.value" class="wanted">
      <h3>What it has made</h3>
      <p>{{ made.data.value.says }}</p>
      <p v-if="made.data.value.breaks.length" class="quiet small">
        {{ made.data.value.breaks.map((b) => `${b.text} ${b.name}`).join(', ') }}
      </p>
      <p v-if="made.data.value.each">
        <b>{{ made.data.value.each.text }}</b> <span class="quiet small">{{ made.data.value.each.unit }}</span>
        <WhyNumber :why="made.data.value.each.why" :of="`${made.data.value.each.text}, ${made.data.value.each.unit}`" />
      </p>
    </div>
    <div class="wanted">
      <h3>Wanted for</h3>
      <p v-if="!tool.wanted.length" class="quiet small">No open piece is made with it.</p>
      <ul v-else>
        <li v-for="x in tool.wanted" :key="x.pieceId">
          <RouterLink :to="`/s/${studio}/commissions/${x.commissionId}/pieces?piece=${x.pieceId}`">{{
            x.says
          }}</RouterLink>
          <span class="quiet small">{{ x.when }}</span>
        </li>
      </ul>
    </div>
    <MachineSteps v-if="tool.roller" :key="`m${tool.id}`" :tool="tool" />
    <CastAgain v-if="tool.cast" :key="`c${tool.id}`" :tool="tool" />
    <OwnDrawing
      v-if="tool.draws"
      :key="tool.id"
      :tool="tool.id"
      what="cutter"
      :path="tool.prints ? tool.picture.outline : ''"
    />
    <ToolPhoto :tool="tool" />
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <div class="row">
      <Button
        v-for="c in tool.copies"
        :key="c.do"
        :label="c.say"
        severity="secondary"
        outlined
        :disabled="c.not !== ''"
        @click="attempt(() => copy.mutateAsync(c.do))"
      />
      <Button v-if="tool.ways.length" label="Weigh one now" severity="secondary" outlined @click="weighing = true" />
      <Button label="Take it away" severity="secondary" outlined @click="away" />
    </div>
    <p v-if="tool.copies[0]?.not" class="quiet small">{{ tool.copies[0].not }}</p>
    <ScaleDialog v-model:visible="weighing" op="" :tool="tool" />
    <details class="measures" open>
      <summary>Its measures</summary>
      <RowForm :id="tool.id" kind="tools" :version="tool.version" :fields="tool.fields" />
    </details>
  </section>
</template>

<style scoped>
.inside {
  padding: 18px 22px;
  display: grid;
  gap: 14px;
  align-content: start;
}
.inside p,
.inside h2,
.inside h3 {
  margin: 0;
}
.head {
  gap: 2px 12px;
}
figure {
  margin: 0;
  display: grid;
  justify-items: center;
  gap: 8px;
}
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: 8px 18px;
  border-top: 1px solid var(--linen);
  padding-top: 10px;
}
.big {
  font-family: 'Fraunces Variable', Fraunces, Georgia, serif;
  font-size: 28px;
  font-variant-numeric: tabular-nums;
}
.dots {
  width: 100%;
  fill: var(--moss);
  font-size: 11px;
}
.dots path {
  stroke: var(--quiet);
}
.dots text {
  fill: var(--quiet);
}
.wanted {
  border-top: 1px solid var(--linen);
  padding-top: 10px;
}
.wanted h3 {
  font: inherit;
  font-size: 14px;
  color: var(--quiet);
}
.wanted ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
.wanted li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 3px 0;
}
.wanted li span {
  white-space: nowrap;
}
.measures summary {
  cursor: pointer;
  color: var(--fern);
  font-weight: 600;
  padding: 6px 0;
}
</style>
