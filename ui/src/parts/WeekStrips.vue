<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, ref, useId, watch } from 'vue'
import { api, Refused, take, type KitchenView } from '../api/client'
import { useAct } from '../api/queries'

// The hours of a week as seven strips: a stretch is drawn, dragged by its ends or moved with the arrow keys, or typed.
const props = defineProps<{ kitchen: KitchenView }>()
type Stretch = KitchenView['week']['days'][number]['stretches'][number]
const week = computed(() => props.kitchen.week)
const STEP = 15
const id = useId()
const at = ref<{ weekday: number; at: number; from: string; to: string; who: string; unwelcome: boolean }>()
const fault = ref('')
const drawn = ref<{ weekday: number; at: number; from: number; to: number }>()
type Said = { weekday: number; at: number; from: string; to: string; who: string; unwelcome: boolean; off: boolean }
const send = useAct((s, body: Said) =>
  take(
    api.POST('/s/{studio}/kitchen/stretch', {
      params: { path: { studio: s } },
      body: { version: props.kitchen.row.version, ...body },
    }),
  ),
)
async function change(body: Said) {
  fault.value = ''
  try {
    await send.mutateAsync(body)
    return true
  } catch (err) {
    fault.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not saved.'
    return false
  } finally {
    drawn.value = undefined
  }
}
const clock = (min: number) => `${String(Math.floor(min / 60)).padStart(2, '0')}:${String(min % 60).padStart(2, '0')}`
const share = (min: number) => `${(100 * (min - week.value.from)) / (week.value.to - week.value.from)}%`
const body = (s: Stretch, weekday: number, from: number, to: number) => ({
  weekday,
  at: s.at,
  from: clock(from),
  to: clock(to),
  who: s.who,
  unwelcome: s.unwelcome,
  off: false,
})
function open(s: Stretch, weekday: number) {
  fault.value = ''
  at.value = { weekday, at: s.at, from: s.fromSays, to: s.toSays, who: s.who, unwelcome: s.unwelcome }
}
async function add(weekday: number, from = '', to = '') {
  fault.value = ''
  at.value = { weekday, at: -1, from, to, who: '', unwelcome: false }
  await nextTick()
  document.getElementById(`${id}from`)?.focus()
}
async function keep() {
  if (at.value && (await change({ ...at.value, off: false }))) at.value = undefined
}
async function off() {
  if (at.value && (at.value.at < 0 || (await change({ ...at.value, off: true })))) at.value = undefined
}
watch(
  () => props.kitchen.row.version,
  () => at.value && at.value.at >= 0 && !send.isPending.value && (at.value = undefined),
)
function keys(e: KeyboardEvent, s: Stretch, weekday: number) {
  const by = { ArrowLeft: -STEP, ArrowRight: STEP }[e.key]
  if (by) {
    e.preventDefault()
    const from = e.shiftKey ? s.from : s.from + by
    const to = s.to + by
    if (from >= 0 && to <= 1440 && to > from) void change(body(s, weekday, from, to))
  } else if (e.key === 'Delete') {
    e.preventDefault()
    void change({ ...body(s, weekday, s.from, s.to), off: true })
  }
}

// by hand: an end, the whole of it, or an empty place
function minute(e: PointerEvent, strip: Element) {
  const r = strip.getBoundingClientRect()
  const m = week.value.from + ((e.clientX - r.left) / r.width) * (week.value.to - week.value.from)
  return Math.min(1440, Math.max(0, Math.round(m / STEP) * STEP))
}
function grab(e: PointerEvent, weekday: number, s?: Stretch, end?: 'from' | 'to') {
  const strip = (e.currentTarget as Element).closest('.strip')
  if (!strip || e.button) return
  e.stopPropagation()
  const began = minute(e, strip)
  const was = s ? { from: s.from, to: s.to } : { from: began, to: began }
  let moved = false
  const move = (x: PointerEvent) => {
    const by = minute(x, strip) - began
    if (!by && !moved) return
    moved = true
    let { from, to } = was
    if (!s) [from, to] = [Math.min(began, began + by), Math.max(began, began + by)]
    else if (end === 'from') from = Math.min(from + by, to - STEP)
    else if (end === 'to') to = Math.max(to + by, from + STEP)
    else [from, to] = [from + by, to + by]
    if (from >= 0 && to <= 1440) drawn.value = { weekday, at: s?.at ?? -1, from, to }
  }
  const done = () => {
    window.removeEventListener('pointermove', move)
    const d = drawn.value
    if (!moved || !d || d.to <= d.from) {
      drawn.value = undefined
      if (s) open(s, weekday)
    } else if (s) void change(body(s, weekday, d.from, d.to))
    else {
      drawn.value = undefined
      void add(weekday, clock(d.from), clock(d.to))
    }
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', done, { once: true })
  window.addEventListener('pointercancel', done, { once: true })
}
const place = (s: Stretch) => {
  const d = drawn.value?.at === s.at ? drawn.value : s
  return { left: share(d.from), width: `calc(${share(d.to)} - ${share(d.from)})` }
}
</script>

<template>
  <div class="week" role="group" aria-label="Hours of the week">
    <div class="marks tiny quiet" aria-hidden="true">
      <span v-for="m in week.marks" :key="m.at" :style="{ left: share(m.at) }">{{ m.say }}</span>
    </div>
    <div v-for="d in week.days" :key="d.weekday" class="day">
      <span class="name">{{ d.name.slice(0, 3) }}</span>
      <div class="strip" :data-day="d.name" @pointerdown="grab($event, d.weekday)">
        <button
          v-for="s in d.stretches"
          :key="s.at"
          type="button"
          class="stretch"
          :class="{ unwelcome: s.unwelcome, held: at?.at === s.at }"
          :style="place(s)"
          :title="s.says"
          :aria-label="`${d.name} ${s.says}. Arrows move it, Shift with arrows its end, Delete takes it off.`"
          @pointerdown="grab($event, d.weekday, s)"
          @keydown.enter.prevent="open(s, d.weekday)"
          @keydown.space.prevent="open(s, d.weekday)"
          @keydown="keys($event, s, d.weekday)"
        >
          <span class="end left" @pointerdown="grab($event, d.weekday, s, 'from')"></span>
          <span class="says small">{{ s.says }}</span>
          <span class="end right" @pointerdown="grab($event, d.weekday, s, 'to')"></span>
        </button>
        <span
          v-if="drawn?.at === -1 && drawn.weekday === d.weekday"
          class="stretch held"
          :style="{ left: share(drawn.from), width: `calc(${share(drawn.to)} - ${share(drawn.from)})` }"
          aria-hidden="true"
        ></span>
      </div>
      <button type="button" class="plus" :aria-label="`More hours on ${d.name}`" @click="add(d.weekday)">+</button>
    </div>
    <form v-if="at" class="row edit" @submit.prevent="keep">
      <b>{{ week.days.find((d) => d.weekday === at!.weekday)?.name }}</b>
      <label :for="id + 'from'">from</label
      ><input :id="id + 'from'" v-model="at.from" class="typed clock" autocomplete="off" />
      <label :for="id + 'to'">to</label><input :id="id + 'to'" v-model="at.to" class="typed clock" autocomplete="off" />
      <label :for="id + 'who'">who</label
      ><input :id="id + 'who'" v-model="at.who" class="typed" autocomplete="off" placeholder="nobody named" />
      <span class="tick">
        <input :id="id + 'un'" v-model="at.unwelcome" type="checkbox" />
        <label :for="id + 'un'">only when there is no other way</label>
      </span>
      <Button type="submit" label="Set it" :loading="send.isPending.value" />
      <Button label="Take it off" severity="secondary" outlined @click="off" />
      <Button label="Leave it" severity="secondary" text @click="at = undefined" />
    </form>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.week {
  display: grid;
  gap: 4px;
}
.marks {
  position: relative;
  height: 16px;
  margin: 0 44px 0 44px;
}
.marks span {
  position: absolute;
  transform: translateX(-2px);
}
.day {
  display: grid;
  grid-template-columns: 36px minmax(0, 1fr) 36px;
  gap: 8px;
  align-items: center;
}
.name {
  font-weight: 600;
}
.strip {
  position: relative;
  height: 40px;
  background: var(--linen);
  border-radius: 6px;
  touch-action: pan-y;
  cursor: crosshair;
}
.stretch {
  position: absolute;
  top: 3px;
  bottom: 3px;
  overflow: hidden;
  padding: 0 8px;
  border: 1px solid var(--fern);
  border-radius: 6px;
  background: var(--sage-light);
  color: var(--ink);
  font: inherit;
  text-align: left;
  white-space: nowrap;
  cursor: grab;
  touch-action: none;
}
.stretch.unwelcome {
  border-style: dashed;
  background: var(--flour);
}
.stretch.held {
  outline: 2px solid var(--fern);
}
.end {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 12px;
  cursor: ew-resize;
}
.left {
  left: 0;
}
.right {
  right: 0;
}
.plus {
  min-width: 36px;
  min-height: 36px;
  border: 1px solid var(--linen);
  border-radius: 6px;
  background: none;
  color: inherit;
  font-size: 18px;
}
.edit {
  margin-top: 8px;
}
.typed {
  width: 160px;
}
.clock {
  width: 90px;
}
.says {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
}
@media (max-width: 600px) {
  .says {
    display: none;
  }
}
</style>
