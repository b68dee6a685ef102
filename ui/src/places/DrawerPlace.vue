<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useStudio, useTools } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import NewTool from '../parts/NewTool.vue'
import ToolInside from '../parts/ToolInside.vue'
import ToolPicture from '../pictures/ToolPicture.vue'
import { useWords } from '../words/words'

const w = useWords()
const studio = useStudio()
const rows = useTools()
const route = useRoute()
const open = ref(Number(route.query.tool ?? 0))
watch(
  () => route.query.tool,
  (tool) => tool && (open.value = Number(tool)),
)
const adding = ref(false)
const tools = computed(() => rows.data.value ?? [])
const chosen = computed(
  () => tools.value.find((r) => r.id === open.value) ?? (adding.value ? undefined : tools.value[0]),
)
/** All tools to one scale: the tallest and the widest still fit. */
const scale = computed(() => {
  let s = 1.5
  for (const { picture: p } of tools.value) {
    const n = Math.min(p.cavities, 6)
    s = Math.min(s, 120 / Math.max(p.highMM, 1), 260 / Math.max(n * p.acrossMM + (n - 1) * 4, 1))
  }
  return s
})
/** As a drawer is: moulds, cutters, rollers, formers, the rest. */
const groups = computed(() => {
  const out: { name: string; tools: typeof tools.value }[] = []
  for (const t of tools.value) {
    const g = out.find((x) => x.name === t.group)
    if (g) g.tools.push(t)
    else out.push({ name: t.group, tools: [t] })
  }
  return out
})
function made(id: number) {
  adding.value = false
  open.value = id
}
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Tool drawer</h1>
      <span v-if="tools.length" class="quiet">{{
        tools.length === 1 ? '1 tool, at true proportions' : `${tools.length} tools, all drawn to one scale`
      }}</span>
      <RouterLink :to="`/s/${studio}/ways`" class="right">Ways of making</RouterLink>
      <Button label="Add a tool" @click="((adding = true), (open = 0))" />
    </header>
    <LoadState :error="rows.error.value" :loading="rows.isPending.value" @again="rows.refetch()" />
    <NewTool v-if="adding" label="Put it into the drawer" @made="made" @leave="adding = false" />
    <p v-if="rows.data.value && !tools.length && !adding" class="flour none">
      {{ w('No tool yet: measure a mould, and weigh a piece from it.') }}
    </p>
    <div v-if="tools.length" class="two">
      <div>
        <section v-for="g in groups" :key="g.name" :aria-label="g.name">
          <h2 class="group">{{ g.name }}</h2>
          <ul class="flour drawer">
            <li v-for="r in g.tools" :key="r.id">
              <button type="button" class="line" :aria-pressed="chosen?.id === r.id" @click="open = r.id">
                <ToolPicture :picture="r.picture" :scale="scale" />
                <b>{{ r.name }}</b>
                <span class="quiet small">{{ r.says[1] }}</span>
                <span class="quiet small">{{ r.says[2] }}</span>
                <span class="vh">{{ r.says[0] }}</span>
              </button>
            </li>
          </ul>
        </section>
        <p class="rule quiet small">
          <svg :width="50 * scale + 2" height="12" aria-hidden="true">
            <path :d="`M1 1V11M1 6H${50 * scale + 1}M${50 * scale + 1} 1V11`" />
          </svg>
          50 mm
        </p>
      </div>
      <ToolInside v-if="chosen" :key="chosen.id" :tool="chosen" />
    </div>
  </div>
</template>

<style scoped>
.right {
  margin-left: auto;
}
.none {
  padding: 24px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(320px, 1fr);
  gap: 22px;
  align-items: start;
}
.drawer {
  list-style: none;
  margin: 0;
  padding: 10px;
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: stretch;
}
.line {
  height: 100%;
  min-width: 116px;
  display: grid;
  justify-items: center;
  align-content: end;
  gap: 3px;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 1px solid transparent;
  border-radius: 10px;
  padding: 12px 12px 10px;
  text-align: center;
  cursor: pointer;
}
.line[aria-pressed='true'] {
  background: var(--sage-light);
  border-color: var(--fern);
}
.group {
  font: inherit;
  font-size: 14px;
  color: var(--quiet);
  margin: 10px 4px 4px;
}
.rule {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 12px 14px 0;
}
.rule path {
  stroke: var(--quiet);
  stroke-width: 1.5;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
