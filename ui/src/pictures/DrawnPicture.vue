<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import type { Drawn } from '../api/client'

// What is measured, to scale: the outlines and words come from the server, in mm.
const props = defineProps<{ drawn: Drawn; swatch: string }>()
const WIDE = 620
const HIGH = 230
// on a telephone there is less room: words keep their size and the rule its truth
const figure = ref<HTMLElement>()
const room = ref(WIDE)
const watcher = new ResizeObserver(([at]) => (room.value = at?.contentRect.width || WIDE))
onMounted(() => figure.value && watcher.observe(figure.value))
onBeforeUnmount(() => watcher.disconnect())
const edge = computed(() => Math.max(props.drawn.widthMM, props.drawn.heightMM) * 0.03 + 2)
const box = computed(() => {
  const d = props.drawn
  const e = edge.value
  return [d.leftMM - e, d.topMM - e, d.widthMM + 2 * e, d.heightMM + 2 * e]
})
// mm on a pixel, so that words and lines keep their size
const perPixel = computed(() => Math.max((box.value[2] ?? 1) / Math.min(WIDE, room.value), (box.value[3] ?? 1) / HIGH))
const fills = computed<Record<string, string>>(() => ({
  piece: props.swatch,
  taken: props.swatch,
  second: `color-mix(in srgb, ${props.swatch} 45%, #f6f2e9)`,
}))
// a rule of a round length, about a sixth of the picture
const rule = computed(() => {
  const most = (box.value[2] ?? 60) / 5
  return [500, 200, 100, 50, 20, 10, 5].find((x) => x <= most) ?? 5
})
</script>

<template>
  <figure ref="figure" class="pic">
    <svg
      :viewBox="box.join(' ')"
      :style="{ width: `min(100%, ${(box[2] ?? 1) / perPixel}px)` }"
      role="img"
      :aria-label="drawn.says"
    >
      <path v-for="(s, i) in drawn.shapes" :key="i" :d="s.path" :class="s.kind" :fill="fills[s.kind]" />
      <text
        v-for="(w, i) in drawn.words"
        :key="'w' + i"
        :x="w.xMM"
        :y="w.yMM"
        :font-size="13 * perPixel"
        :stroke-width="4 * perPixel"
        dy="0.35em"
      >
        {{ w.says }}
      </text>
    </svg>
    <figcaption class="quiet small">
      {{ drawn.says.split(':')[0] }}
      <span class="rule" :style="{ width: `${rule / perPixel}px` }" aria-hidden="true"></span> {{ rule }} mm
    </figcaption>
  </figure>
</template>

<style scoped>
.pic {
  margin: 18px 0;
}
svg {
  display: block;
  height: auto;
  overflow: visible;
  stroke: var(--ink);
  stroke-width: 1;
}
svg * {
  vector-effect: non-scaling-stroke;
}
.scrap {
  fill: color-mix(in srgb, var(--linen) 60%, var(--flour));
  stroke-dasharray: 2 3;
}
.tool {
  fill: var(--flour);
}
.deep {
  fill: color-mix(in srgb, var(--ink) 18%, transparent);
  stroke: none;
}
.fold {
  fill: none;
  stroke-dasharray: 5 4;
}
.free {
  fill: none;
}
.size {
  fill: none;
  stroke: var(--quiet);
}
text {
  fill: var(--ink);
  stroke: var(--flour);
  paint-order: stroke;
  text-anchor: middle;
  vector-effect: none;
}
.rule {
  display: inline-block;
  margin-left: 14px;
  height: 6px;
  border: solid var(--quiet);
  border-width: 0 1px 1px;
  vertical-align: middle;
}
</style>
