<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, Refused, sendFile, take, type ToolView } from '../api/client'
import { cache, useAct, useStudio } from '../api/queries'
import MarkedPhoto from '../pictures/MarkedPhoto.vue'
import FilePick from './FilePick.vue'

const props = defineProps<{ tool: ToolView }>()
const studio = useStudio()
const fault = ref('')
const busy = ref(false)
const putting = ref<'deep' | 'small'>('deep')
const photo = computed(() => props.tool.photo)
const marks = computed(() => photo.value?.marks ?? [])
const names = { deep: 'deep zone', small: 'small end' } as const

async function choose(file: File) {
  busy.value = true
  await attempt(async () => {
    await sendFile(`/s/${studio.value}/tools/${props.tool.id}/photo`, file)
    await cache.invalidateQueries()
  })
  busy.value = false
}
const mark = useAct((s, to: typeof marks.value) =>
  take(
    api.POST('/s/{studio}/tools/{id}/photo/{photo}/marks', {
      params: { path: { studio: s, id: props.tool.id, photo: photo.value?.id ?? 0 } },
      body: { marks: to },
    }),
  ),
)
const remove = useAct((s, id: number) =>
  take(api.POST('/s/{studio}/tools/{id}/photo/remove', { params: { path: { studio: s, id } } })),
)
async function attempt(what: () => Promise<unknown>) {
  fault.value = ''
  try {
    await what()
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'That was not done.'
  }
}
const set = (to: typeof marks.value) => attempt(() => mark.mutateAsync(to))
const inside = ref<HTMLElement>()
async function put(e: MouseEvent) {
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  // pressed from the keyboard it begins in the middle; the arrows move it from there
  const at = e.detail
    ? { x: (e.clientX - box.left) / box.width, y: (e.clientY - box.top) / box.height }
    : { x: 0.5, y: 0.5 }
  await set([...marks.value, { what: putting.value, ...at }])
  if (!e.detail) inside.value?.querySelector<HTMLElement>('.mark:last-of-type')?.focus()
}
const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-0.02, 0],
  ArrowRight: [0.02, 0],
  ArrowUp: [0, -0.02],
  ArrowDown: [0, 0.02],
}
const off = (i: number) => void set(marks.value.filter((_, k) => k !== i))
function keys(e: KeyboardEvent, i: number) {
  const by = arrows[e.key]
  if (e.key === 'Delete' || e.key === 'Backspace') off(i)
  else if (by) {
    const within = (v: number) => Math.min(1, Math.max(0, v))
    void set(marks.value.map((m, k) => (k === i ? { ...m, x: within(m.x + by[0]), y: within(m.y + by[1]) } : m)))
  } else return
  e.preventDefault()
}
</script>

<template>
  <section ref="inside" class="photo" aria-label="Photo">
    <h3>Photo</h3>
    <template v-if="photo">
      <MarkedPhoto :photo="photo">
        <button type="button" class="over" :aria-label="`Mark a ${names[putting]}`" @click="put"></button>
        <button
          v-for="(m, i) in marks"
          :key="i"
          type="button"
          class="mark"
          :class="m.what"
          :style="{ left: `${m.x * 100}%`, top: `${m.y * 100}%` }"
          :aria-label="`${names[m.what]} ${i + 1}: arrows move it, a press takes it off`"
          :title="names[m.what]"
          @click="off(i)"
          @keydown="keys($event, i)"
        ></button>
      </MarkedPhoto>
      <div class="row" role="group" aria-label="What is marked">
        <Button
          v-for="(name, what) in names"
          :key="what"
          :label="what === 'deep' ? 'Mark deep zones' : 'Mark small ends'"
          severity="secondary"
          :outlined="putting !== what"
          :aria-pressed="putting === what"
          @click="putting = what"
        />
      </div>
      <p class="quiet small">Press on the photo to mark it, on a mark to take that off.</p>
      <p v-for="s in photo.says" :key="s" class="small">{{ s }}</p>
    </template>
    <p v-else class="quiet small">
      A photo of the open mould, with its deep zones and small ends marked, stands beside the pressing.
    </p>
    <div class="row">
      <FilePick
        :label="photo ? 'Another photo' : 'Add a photo'"
        accept="image/png,image/jpeg"
        :hint="busy ? 'Being made small …' : 'PNG or JPEG, up to 12 MB'"
        @file="choose"
      />
      <Button
        v-if="photo"
        label="Take the photo away"
        severity="secondary"
        outlined
        @click="attempt(() => remove.mutateAsync(tool.id))"
      />
    </div>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
  </section>
</template>

<style scoped>
.photo {
  display: grid;
  gap: 8px;
  border-top: 1px solid var(--linen);
  padding-top: 10px;
}
.photo :is(h3, p) {
  margin: 0;
}
.photo h3 {
  font: inherit;
  font-size: 14px;
  color: var(--quiet);
}
.over {
  position: absolute;
  inset: 0;
  background: none;
  border: 0;
  cursor: crosshair;
}
.mark {
  cursor: pointer;
}
</style>
