<script setup lang="ts">
import Button from 'primevue/button'
import { onUnmounted, ref } from 'vue'
import type { Problem } from '../api/client'

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
function choose(e: Event) {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (!file) return
  fault.value = says.value = hex.value = ''
  spot.value = card.value = null
  if (shown.value) URL.revokeObjectURL(shown.value)
  photo.value = file
  shown.value = URL.createObjectURL(file)
}
onUnmounted(() => shown.value && URL.revokeObjectURL(shown.value))
function pick(e: MouseEvent) {
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  const at = { x: (e.clientX - box.left) / box.width, y: (e.clientY - box.top) / box.height }
  if (asking.value === 'card') card.value = at
  else spot.value = at
  asking.value = 'spot'
  void ask()
}
async function ask() {
  if (!photo.value || !spot.value) return
  const q = new URLSearchParams({ x: String(spot.value.x), y: String(spot.value.y) })
  if (card.value) {
    q.set('cardX', String(card.value.x))
    q.set('cardY', String(card.value.y))
  }
  fault.value = ''
  try {
    const answer = await fetch(`/api/photo?${q.toString()}`, {
      method: 'POST',
      body: photo.value,
      headers: { 'Content-Type': 'application/octet-stream' },
    })
    if (!answer.ok) {
      fault.value = ((await answer.json()) as Problem).detail
      return
    }
    const found = (await answer.json()) as { hex: string; says: string }
    hex.value = found.hex
    says.value = found.says
    emit('picked', found.hex)
  } catch {
    fault.value = 'The server does not answer. The photo is still here: try once more.'
  }
}
const mark = (s: { x: number; y: number }) => ({ left: `${s.x * 100}%`, top: `${s.y * 100}%` })
</script>

<template>
  <div class="photo">
    <label class="file">
      <span>From a photo</span>
      <input type="file" accept="image/png,image/jpeg" @change="choose" />
    </label>
    <template v-if="shown">
      <p class="small quiet">
        {{ asking === 'card' ? 'Press on the white card.' : 'Press on the spot whose colour is meant.' }}
      </p>
      <button
        type="button"
        class="frame"
        :aria-label="asking === 'card' ? 'Pick the white card' : 'Pick the spot'"
        @click="pick"
      >
        <img :src="shown" alt="" @error="fault = 'This is no photo that can be shown: a PNG or a JPEG is wanted.'" />
        <span v-if="spot" class="mark" :style="mark(spot)"></span>
        <span v-if="card" class="mark card" :style="mark(card)"></span>
      </button>
      <div class="row">
        <Button
          type="button"
          :label="card ? 'Pick the card anew' : 'There is a white card in it'"
          size="small"
          severity="secondary"
          outlined
          @click="asking = 'card'"
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
.file {
  min-height: 44px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
  font-size: 14px;
  font-weight: 550;
}
.file input {
  font: inherit;
  max-width: 100%;
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
