<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useTools } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import NewRow from '../parts/NewRow.vue'
import ToolInside from '../parts/ToolInside.vue'
import ToolPicture from '../pictures/ToolPicture.vue'
import { useWords } from '../words/words'

const w = useWords()
const rows = useTools()
const open = ref(0)
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
        w(tools.length === 1 ? '1 mould, at true proportions' : `${tools.length} moulds, all drawn to one scale`)
      }}</span>
      <Button class="right" :label="w('Add a mould')" @click="((adding = true), (open = 0))" />
    </header>
    <LoadState :error="rows.error.value" :loading="rows.isPending.value" @again="rows.refetch()" />
    <NewRow v-if="adding" kind="tools" :label="w('Add a mould')" @made="made" @leave="adding = false" />
    <p v-if="rows.data.value && !tools.length && !adding" class="flour none">
      {{ w('No mould yet: measure one, and weigh a piece from it.') }}
    </p>
    <div v-if="tools.length" class="two">
      <div>
        <ul class="flour drawer">
          <li v-for="r in tools" :key="r.id">
            <button type="button" class="line" :aria-pressed="chosen?.id === r.id" @click="open = r.id">
              <ToolPicture :picture="r.picture" :scale="scale" />
              <b>{{ r.name }}</b>
              <span class="quiet small">{{ r.says[1] }}</span>
              <span class="quiet small">{{ r.says[2] }}</span>
              <span class="vh">{{ r.says[0] }}</span>
            </button>
          </li>
        </ul>
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
