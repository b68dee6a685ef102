<script setup lang="ts">
import type { PhotoView } from '../api/client'
import { useStudio } from '../api/queries'

// The photo of a tool with its marks; whoever shows it for marking puts buttons into the slot.
defineProps<{ photo: PhotoView }>()
const studio = useStudio()
</script>

<template>
  <div class="marked">
    <img :src="`/api/s/${studio}/photos/${photo.id}`" :alt="`${photo.tool}, photo`" />
    <slot>
      <span
        v-for="(m, i) in photo.marks"
        :key="i"
        class="mark"
        :class="m.what"
        :style="{ left: `${m.x * 100}%`, top: `${m.y * 100}%` }"
        aria-hidden="true"
      ></span>
    </slot>
  </div>
</template>

<style scoped>
.marked {
  position: relative;
  width: fit-content;
  max-width: 100%;
  line-height: 0;
}
img {
  max-width: 100%;
  max-height: 320px;
  border-radius: 8px;
}
.marked :deep(.mark) {
  position: absolute;
  width: 30px;
  height: 30px;
  margin: -15px 0 0 -15px;
  padding: 0;
  border: 3px solid #fff;
  outline: 2px solid #1d2b24;
  background: none;
}
/* a deep zone is a ring, a small end a tilted square: told apart without colour */
.marked :deep(.mark.deep) {
  border-radius: 50%;
}
.marked :deep(.mark.small) {
  width: 20px;
  height: 20px;
  margin: -10px 0 0 -10px;
  rotate: 45deg;
}
</style>
