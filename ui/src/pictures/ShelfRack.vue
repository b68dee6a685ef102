<script setup lang="ts">
import { computed, ref } from 'vue'
import type { RackView } from '../api/client'

// A rack: its trays from above, to one scale, pieces in their colours, and its air as a strip along the side. A batch is
// chosen with a press or Enter, and drawn to another tray, or moved there with the arrow keys.
const props = defineProps<{ rack: RackView; chosen: string; scale: number }>()
const emit = defineEmits<{ choose: [op: string]; move: [op: string, rack: number, tray: number] }>()
const S = computed(() => props.scale) // px a mm
const nowMs = computed(() => props.rack.strip.find((h) => h.expected)?.ms ?? 0)
const low = 30
const high = 80
const bar = (rh: number) => Math.max(2, Math.min(1, (rh - low) / (high - low)) * 40)
const stripHigh = 124
const stepY = computed(() => stripHigh / Math.max(1, props.rack.strip.length))
const drawn = ref<{ op: string; x: number; y: number }>()
let from = { x: 0, y: 0, op: '' }
function down(e: PointerEvent, op: string) {
  if (e.button) return
  from = { x: e.clientX, y: e.clientY, op }
  emit('choose', op)
  window.addEventListener('pointermove', along)
  window.addEventListener('pointerup', up, { once: true })
  window.addEventListener('pointercancel', stop, { once: true })
}
function along(e: PointerEvent) {
  const x = e.clientX - from.x
  const y = e.clientY - from.y
  drawn.value = drawn.value || Math.hypot(x, y) > 12 ? { op: from.op, x, y } : undefined
}
function stop() {
  window.removeEventListener('pointermove', along)
  window.removeEventListener('pointerup', up)
  drawn.value = undefined
}
function up(e: PointerEvent) {
  const was = drawn.value
  stop()
  if (!was) return
  const goal = document
    .elementsFromPoint(e.clientX, e.clientY)
    .find((el) => el instanceof HTMLElement && el.dataset.tray)
  if (goal instanceof HTMLElement) emit('move', was.op, Number(goal.dataset.rack), Number(goal.dataset.tray))
}
function key(e: KeyboardEvent, op: string, tray: number) {
  const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 }[e.key]
  if (by && tray + by >= 1 && tray + by <= props.rack.trays.length) {
    e.preventDefault()
    e.stopPropagation()
    emit('move', op, props.rack.id, tray + by)
  }
  if (e.key === 'Enter' || e.key === ' ') {
    e.preventDefault()
    emit('choose', op)
  }
}
</script>

<template>
  <section class="rack" :aria-label="rack.name">
    <header class="row">
      <h2>{{ rack.name }}</h2>
      <span>{{ rack.air.says }}</span>
      <span class="small" :class="rack.air.slow ? 'danger' : 'quiet'">{{ rack.air.verdict }}</span>
      <span class="quiet small" :class="{ soon: rack.air.stale }">{{ rack.air.age }}</span>
      <span class="right" :class="rack.full ? 'danger' : 'quiet'">{{ rack.says }}</span>
    </header>
    <div class="body">
      <svg class="strip" :viewBox="`0 0 54 ${stripHigh + 22}`" width="54" :height="stripHigh + 22" aria-hidden="true">
        <title>Humidity, a day back to a day ahead</title>
        <rect
          v-for="(h, i) in rack.strip"
          :key="h.ms"
          x="0"
          :y="i * stepY"
          :width="bar(h.rh)"
          :height="stepY + 0.3"
          :class="{ slow: h.slow, comes: h.expected }"
        />
        <path v-if="nowMs" :d="`M0 ${rack.strip.findIndex((h) => h.expected) * stepY}H54`" class="now" />
        <text x="0" :y="stripHigh + 15">damp</text>
      </svg>
      <div
        v-for="t in rack.trays"
        :key="t.n"
        class="tray"
        :data-rack="rack.id"
        :data-tray="t.n"
        :class="{ empty: !t.batches.length }"
      >
        <svg
          :viewBox="`-4 -4 ${t.lengthMM + 8} ${t.widthMM + 8}`"
          :width="t.lengthMM * S"
          :height="t.widthMM * S"
          :aria-label="t.says"
          role="group"
        >
          <rect x="-3" y="-3" :width="t.lengthMM + 6" :height="t.widthMM + 6" rx="8" class="edge" />
          <g
            v-for="b in t.batches"
            :key="b.op"
            class="batch"
            :class="{ on: b.op === chosen, never: b.never }"
            tabindex="0"
            role="button"
            :aria-pressed="b.op === chosen"
            :aria-label="`${b.count} ${b.name}, ${b.next}, tray ${t.n}`"
            :style="
              drawn?.op === b.op
                ? { transform: `translate(${drawn.x / S}px, ${drawn.y / S}px)`, pointerEvents: 'none' }
                : {}
            "
            @pointerdown="down($event, b.op)"
            @keydown="key($event, b.op, t.n)"
          >
            <rect
              v-for="(s, i) in b.spots"
              :key="i"
              :x="s.x"
              :y="s.y"
              :width="b.lengthMM"
              :height="b.widthMM"
              :rx="b.round ? Math.min(b.lengthMM, b.widthMM) / 2 : Math.min(b.lengthMM, b.widthMM) / 4"
              :fill="b.swatch"
              class="piece"
            />
          </g>
        </svg>
        <p class="tiny quiet">
          {{ t.says }}<template v-if="t.together">; {{ t.together }}</template>
        </p>
        <p v-for="b in t.batches" :key="b.op" class="small">
          <button type="button" class="link" @click="emit('choose', b.op)">{{ b.count }} {{ b.name }}</button><br />
          <span :class="b.never ? 'danger' : b.ready ? 'yes' : ''">{{ b.next }}</span>
          <span v-if="b.bagged" class="quiet">, in a bag</span>
        </p>
      </div>
      <div v-if="rack.loose.length" class="loose">
        <p class="tiny quiet">on formers, or with no tray</p>
        <p v-for="b in rack.loose" :key="b.op" class="small">
          <span class="pat" :style="{ background: b.swatch }" />
          <button type="button" class="link" @click="emit('choose', b.op)">{{ b.count }} {{ b.name }}</button>
          <span :class="{ danger: b.never }">{{ b.next }}</span>
        </p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.rack {
  border-top: 3px solid var(--moss);
  padding-top: 8px;
}
.right {
  margin-left: auto;
}
.body {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 16px;
  align-items: flex-start;
  margin-top: 8px;
}
.strip rect {
  fill: var(--dusk);
}
.strip rect.comes {
  fill: color-mix(in srgb, var(--dusk) 45%, var(--flour));
}
.strip rect.slow {
  fill: var(--rosehip);
}
.strip rect.slow.comes {
  fill: color-mix(in srgb, var(--rosehip) 55%, var(--flour));
}
.strip .now {
  stroke: var(--ink);
}
.strip text {
  font:
    12px 'Figtree Variable',
    sans-serif;
  fill: var(--quiet);
}
.tray {
  min-width: 130px;
}
.tray svg {
  display: block;
  touch-action: none;
}
.tray p {
  margin: 2px 0;
  width: 0;
  min-width: 100%;
}
.edge {
  fill: var(--flour);
  stroke: var(--edge);
  stroke-width: 3;
}
.empty .edge {
  stroke-dasharray: 10 8;
}
.batch {
  cursor: grab;
}
.batch:focus-visible {
  outline: none;
}
.piece {
  stroke: color-mix(in srgb, var(--ink) 40%, transparent);
  stroke-width: 1.5;
}
.on .piece,
.batch:focus-visible .piece {
  stroke: var(--fern);
  stroke-width: 5;
}
.never .piece {
  stroke: var(--rosehip);
  stroke-width: 3;
}
.yes {
  font-weight: 650;
  color: var(--fern);
}
.loose {
  max-width: 230px;
}
.loose p {
  margin: 2px 0;
}
</style>
