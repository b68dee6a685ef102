<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, take, type ToolView } from '../api/client'
import { useStudio, useToolKinds } from '../api/queries'
import ToolPicture from '../pictures/ToolPicture.vue'
import LoadState from './LoadState.vue'
import NewRow from './NewRow.vue'

// A new tool: its kind is chosen by its picture, then only the measures of that kind are asked, and the drawing grows as
// they are typed.
const props = defineProps<{ label: string; only?: string[] }>()
const emit = defineEmits<{ made: [id: number]; leave: [] }>()
const studio = useStudio()
const kinds = useToolKinds()
const chosen = ref('')
const kind = computed(() => kinds.data.value?.find((k) => k.kind === chosen.value))
const groups = computed(() => {
  const out: { name: string; kinds: NonNullable<typeof kinds.data.value> }[] = []
  for (const k of kinds.data.value ?? []) {
    if (props.only && !props.only.includes(k.kind)) continue
    const g = out.find((x) => x.name === k.group)
    if (g) g.kinds.push(k)
    else out.push({ name: k.group, kinds: [k] })
  }
  return out
})
const sketch = ref<ToolView['picture']>()
const picture = computed(() => sketch.value ?? kind.value?.picture)
const scale = (p: ToolView['picture'], most: number) =>
  Math.min(1.4, most / Math.max(p.highMM, 1), (most * 1.3) / Math.max(p.acrossMM, 1))
let asked = 0
async function draw(set: Record<string, string>) {
  const mine = ++asked
  const p = await take(
    api.POST('/s/{studio}/tools/sketch/{kind}', {
      params: { path: { studio: studio.value, kind: chosen.value } },
      body: { set },
    }),
  ).catch(() => undefined)
  if (p && mine === asked) sketch.value = p
}
function choose(k: string) {
  chosen.value = k
  sketch.value = undefined
}
</script>

<template>
  <section v-if="!kind" class="flour kinds" aria-label="What kind of tool">
    <header class="row">
      <h2>What kind is it?</h2>
      <Button label="Leave it" severity="secondary" outlined class="right" @click="emit('leave')" />
    </header>
    <LoadState :error="kinds.error.value" :loading="kinds.isPending.value" @again="kinds.refetch()" />
    <div v-for="g in groups" :key="g.name">
      <h3>{{ g.name }}</h3>
      <ul>
        <li v-for="k in g.kinds" :key="k.kind">
          <button type="button" class="kind" @click="choose(k.kind)">
            <ToolPicture :picture="k.picture" :scale="scale(k.picture, 56)" :most="1" />
            <span>{{ k.name }}</span>
          </button>
        </li>
      </ul>
    </div>
  </section>
  <div v-else class="adding">
    <figure class="flour">
      <ToolPicture v-if="picture" :picture="picture" :scale="scale(picture, 180)" :most="1" />
      <figcaption class="quiet small">{{ kind.name }}: {{ picture?.says }}</figcaption>
      <Button label="Another kind" size="small" severity="secondary" text @click="choose('')" />
    </figure>
    <NewRow
      :key="chosen"
      kind="tools"
      :of="chosen"
      :label="label"
      :preset="{ kind: chosen }"
      @typed="draw"
      @made="(id) => emit('made', id)"
      @leave="emit('leave')"
    />
  </div>
</template>

<style scoped>
.kinds {
  padding: 16px 20px;
}
.kinds h2,
.kinds h3 {
  margin: 0;
}
.kinds h3 {
  font: inherit;
  font-size: 14px;
  color: var(--quiet);
  margin-top: 14px;
}
.right {
  margin-left: auto;
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.kind {
  width: 132px;
  height: 118px;
  padding: 10px 8px;
  display: grid;
  justify-items: center;
  align-content: end;
  gap: 8px;
  font: inherit;
  font-size: 13px;
  color: var(--ink);
  background: none;
  border: 1px solid var(--linen);
  border-radius: 10px;
  cursor: pointer;
}
.kind:hover {
  border-color: var(--fern);
}
.adding {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
  gap: 18px;
  align-items: start;
}
figure {
  margin: 0;
  padding: 20px;
  display: grid;
  justify-items: center;
  gap: 10px;
}
@media (max-width: 900px) {
  .adding {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
