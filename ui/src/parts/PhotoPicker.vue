<script setup lang="ts">
import Button from 'primevue/button'
import { onUnmounted, ref } from 'vue'
import { Refused, sendFile } from '../api/client'
import FilePick from './FilePick.vue'

// A photo stays in this browser; the server is sent the spot with it and answers the colour.
const emit = defineEmits<{ picked: [hex: string] }>()
const shown = ref('')
const photo = ref<File | null>(null)
const card = ref<{ x: number; y: number } | null>(null)
const spot = ref<{ x: number; y: number } | null>(null)
const asking = ref<'spot' | 'card'>('spot')
const fault = ref('')
const says = ref('')
const hex = ref('')
function choose(file: File) {
  fault.value = says.value = hex.value = ''
  spot.value = card.value = null
  if (shown.value) URL.revokeObjectURL(shown.value)
  photo.value = file
  shown.value = URL.createObjectURL(file)
}
onUnmounted(() => shown.value && URL.revokeObjectURL(shown.value))
function pick(e: MouseEvent) {
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  const middle = { x: 0.5, y: 0.5 } // pressed from the keyboard: the arrows go on from there
  take(e.detail ? { x: (e.clientX - box.left) / box.width, y: (e.clientY - box.top) / box.height } : middle)
  if (asking.value === 'card' && e.detail) asking.value = 'spot'
}
function take(at: { x: number; y: number }) {
  if (asking.value === 'card') card.value = at
  else spot.value = at
  void ask()
}
const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-0.01, 0],
  ArrowRight: [0.01, 0],
  ArrowUp: [0, -0.01],
  ArrowDown: [0, 0.01],
}
function nudge(e: KeyboardEvent) {
  const by = arrows[e.key]
  if (!by) return
  e.preventDefault()
  const far = e.shiftKey ? 10 : 1
  const from = (asking.value === 'card' ? card.value : spot.value) ?? { x: 0.5, y: 0.5 }
  const within = (v: number) => Math.min(1, Math.max(0, v))
  take({ x: within(from.x + by[0] * far), y: within(from.y + by[1] * far) })
}
let busy = false
let again = false
// One question at a time: each carries the photo, and arrows come fast.
async function ask() {
  if (!photo.value || !spot.value) return
  again = busy
  if (busy) return
  busy = true
  fault.value = ''
  const q = new URLSearchParams({ x: String(spot.value.x), y: String(spot.value.y) })
  if (card.value) {
    q.set('cardX', String(card.value.x))
    q.set('cardY', String(card.value.y))
  }
  try {
    const found = await sendFile<{ hex: string; says: string }>(`/photo?${q.toString()}`, photo.value)
    hex.value = found.hex
    says.value = found.says
    emit('picked', found.hex)
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It cannot be read.'
  }
  busy = false
  if (again) void ask()
}
const mark = (s: { x: number; y: number }) => ({ left: `${s.x * 100}%`, top: `${s.y * 100}%` })
</script>

<template>
  <div class="photo">
    <FilePick
      :label="photo ? 'Another photo' : 'From a photo'"
      accept="image/png,image/jpeg"
      hint="PNG or JPEG, up to 12 MB"
      @file="choose"
    />
    <template v-if="shown">
      <p class="small quiet">
        {{ asking === 'card' ? 'Press on the white card' : 'Press on the spot whose colour is meant' }}, or go to it
        with the arrow keys (with Shift in larger steps).
      </p>
      <button
        type="button"
        class="frame"
        :aria-label="asking === 'card' ? 'Pick the white card' : 'Pick the spot'"
        @click="pick"
        @keydown="nudge"
      >
        <img :src="shown" alt="" @error="fault = 'This is no photo that can be shown: a PNG or a JPEG is wanted.'" />
        <span v-if="spot" class="mark" :style="mark(spot)"></span>
        <span v-if="card" class="mark card" :style="mark(card)"></span>
      </button>
      <div class="row">
        <Button
          type="button"
          :label="
            asking === 'card' && card ? 'Back to the spot' : card ? 'Pick the card anew' : 'There is a white card in it'
          "
          size="small"
          severity="secondary"
          outlined
          @click="asking = asking === 'card' && card ? 'spot' : 'card'"
        />
        <span v-if="hex" class="row small"
          ><span class="pat" :style="{ background: hex }" aria-hidden="true"></span> {{ hex }}</span
        >
      </div>
      <p v-if="says" class="small quiet" role="status">{{ says }}</p>
    </template>
    <p v-if="fault" class="danger small" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.photo {
  display: grid;
  gap: 6px;
  width: 100%;
}
.frame {
  position: relative;
  border: 1px solid var(--linen);
  padding: 0;
  background: none;
  cursor: crosshair;
  line-height: 0;
  max-width: 100%;
}
.frame img {
  max-width: 100%;
  max-height: 340px;
}
.mark {
  position: absolute;
  width: 22px;
  height: 22px;
  margin: -11px 0 0 -11px;
  border-radius: 50%;
  border: 2px solid #fff;
  outline: 2px solid #000;
}
.mark.card {
  border-radius: 3px;
}
p {
  margin: 0;
}
</style>
