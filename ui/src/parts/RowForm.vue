<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { FieldView, Kind } from '../api/client'
import { pendingText } from '../api/outbox'
import { useKitchen, useStudio } from '../api/queries'
import FieldInput from './FieldInput.vue'
import { useSaving } from './saving'

const props = defineProps<{
  kind: Kind | 'kitchen' | 'ways'
  id: number
  version: number
  fields: FieldView[]
  folded?: string[] // groups that are rarely changed
  asText?: string[] // fields that something better stands for
}>()
const { errors, clashes, saved, choices, save, refusedText } = useSaving(() => ({
  kind: props.kind,
  id: props.id,
  version: props.version,
}))
const studio = useStudio()
const url = computed(
  () => `/s/${studio.value}/` + (props.kind === 'kitchen' ? 'kitchen' : `rows/${props.kind}/${props.id}`),
)
// the version that each field was typed over, while it is being typed
const base: Record<string, { version: number; saved: number }> = {}
const times = (name: string) => saved[name] ?? 0
const edit = (name: string) => (base[name] ??= { version: props.version, saved: times(name) })
function commit(name: string, text: string) {
  const b = base[name]
  delete base[name]
  // a save of one's own in between is no stranger's
  void save({ [name]: text }, () => (b && b.saved === times(name) ? b.version : undefined))
}
// what was opened stays open when it is mended: a field is never taken from under the hands
const opened = reactive<Record<string, boolean>>({})
const noteOpen = (name: string, e: Event) => (opened[name] = (e.target as HTMLDetailsElement).open)
const given = reactive<Record<string, number>>({})
const groups = computed(() => {
  const out: { name: string; fields: FieldView[] }[] = []
  for (const f of props.fields) {
    const g = out.find((x) => x.name === f.group)
    if (g) g.fields.push(f)
    else out.push({ name: f.group, fields: [f] })
  }
  return out
})
function keep(name: string) {
  const c = clashes[name]
  if (c) void save({ [name]: c.yours }, () => c.version)
}
const kitchen = useKitchen()
const remember = useSaving(() => ({ kind: 'kitchen', id: 0, version: kitchen.data.value?.row.version ?? 0 }))
/** What a packet of this studio weighs is said once. */
function keepUnit(line: string) {
  const now = kitchen.data.value?.row.fields.find((f) => f.name === 'unitGrams')?.text ?? ''
  void remember.save({ unitGrams: [...now.split('\n').filter(Boolean), line].join('\n') })
}
function give(name: string) {
  delete clashes[name]
  given[name] = (given[name] ?? 0) + 1
}
</script>

<template>
  <form class="groups" @submit.prevent>
    <component
      :is="folded?.includes(g.name) ? 'details' : 'fieldset'"
      v-for="g in groups"
      :key="g.name"
      class="flour"
      :open="(folded?.includes(g.name) && (opened[g.name] || g.fields.some((f) => errors[f.name]))) || undefined"
      @toggle.self="noteOpen(g.name, $event)"
    >
      <component :is="folded?.includes(g.name) ? 'summary' : 'legend'">{{ g.name }}</component>
      <slot name="top" :group="g.name"></slot>
      <div class="fields">
        <template v-for="f in g.fields" :key="f.name">
          <component
            :is="asText?.includes(f.name) ? 'details' : 'div'"
            class="one"
            :class="{ wide: f.kind === 'lines' || f.kind === 'notes' || f.kind === 'many' }"
            :open="(asText?.includes(f.name) && (opened[f.name] || !!errors[f.name])) || undefined"
            @toggle.self="noteOpen(f.name, $event)"
          >
            <summary v-if="asText?.includes(f.name)" class="quiet">{{ f.label.split(',')[0] }} as text</summary>
            <FieldInput
              :field="f"
              :error="errors[f.name]"
              :clash="clashes[f.name]"
              :saved="saved[f.name]"
              :reset="given[f.name]"
              :waits="pendingText(url, f.name) !== undefined"
              :kept="pendingText(url, f.name) ?? refusedText(f.name)"
              :choices="choices[f.name]"
              @edit="edit(f.name)"
              @save="(t) => commit(f.name, t)"
              @keep-mine="keep(f.name)"
              @take-theirs="give(f.name)"
              @keep="keepUnit"
            />
          </component>
        </template>
      </div>
    </component>
  </form>
</template>

<style scoped>
.groups {
  display: grid;
  gap: 16px;
}
fieldset,
details.flour {
  padding: 6px 20px 18px;
  margin: 0;
  min-width: 0;
}
details.flour:not([open]) {
  padding: 12px 20px;
}
summary {
  cursor: pointer;
}
legend,
details.flour > summary {
  font-family: 'Fraunces Variable', Fraunces, Georgia, serif;
  font-weight: 560;
  font-size: 18px;
  padding: 0 6px;
  margin-left: -6px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(260px, 100%), 1fr));
  gap: 14px 20px;
  align-items: start;
}
.wide {
  grid-column: 1 / -1;
}
</style>
