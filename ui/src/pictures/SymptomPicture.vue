<script setup lang="ts">
import { computed } from 'vue'

// A small drawing of what is seen, so that a list of faults is read with the eyes first.
const props = defineProps<{ code: string }>()
const drawn: Record<string, string> = {
  flat: 'M4 30h40M8 30c4-8 8-8 12 0M22 30c3-3 6-3 9 0',
  tips: 'M24 6C14 16 10 28 14 42M24 6c10 10 14 22 10 36M24 6v8M20 10l8 0',
  rim: 'M8 26a16 10 0 0 0 32 0a16 10 0 0 0-32 0M3 26a21 14 0 0 0 42 0',
  hollow: 'M6 34h36M6 34c6-16 30-16 36 0M14 34c4-6 16-6 20 0',
  blade: 'M6 40h36M10 30l26-18 4 6-26 18ZM14 40c4-3 8-3 10 0',
  hole: 'M6 16h36v20H6ZM20 26a4 4 0 0 0 8 0a4 4 0 0 0-8 0',
  stuck: 'M8 14v22h32V14M14 14c0 12 20 12 20 0',
  bent: 'M6 36C16 34 18 16 28 18s8 14 14 12',
  long: 'M6 24h36M6 18v12M42 18v12M12 24h24',
  crack: 'M8 12h32v26H8ZM24 12l-4 8 6 6-6 6 3 6',
  film: 'M8 14h32v22H8ZM14 20h4M26 18h6M18 28h5M30 30h4',
  drops: 'M16 14c5 7 6 9 6 12a6 6 0 0 1-12 0c0-3 1-5 6-12ZM34 20c4 6 5 7 5 10a5 5 0 0 1-10 0c0-3 1-4 5-10Z',
  snaps: 'M4 24h14M30 24h14M18 24l4-6M30 24l-4 6',
  sticky: 'M8 38h32M14 38c0-12 2-18 10-18s10 6 10 18M20 20v-8M28 20v-6',
  edge: 'M8 12h32v20l-4 4-3-4-4 5-4-5-4 5-4-4-4 4-5-5Z',
  cutter: 'M12 8h24v24c0 8-24 8-24 0ZM16 36h16',
  lines: 'M8 14c8 4 24-4 32 0M8 22c8 4 24-4 32 0M8 30c8 4 24-4 32 0M8 38c8 4 24-4 32 0',
  strip: 'M4 18c8-6 12 6 20 0s12 6 20 0M4 32c8-6 12 6 20 0s12 6 20 0',
  torn: 'M4 18h18l4 4-3 4 3 4-4 4H4ZM44 18H30l3 4-4 4 4 4-3 4h14Z',
  soft: 'M8 38c0-8 4-10 8-14s12-4 16 0 8 6 8 14Z',
  dust: 'M24 40V20M16 20h16l-3-10H19ZM10 36h2M36 34h2M12 42h2M34 42h2',
  paint: 'M8 38c10 4 22-4 32 0M16 30l16-20 6 5-16 20Z',
  petal: 'M24 42C8 30 10 12 24 6c14 6 16 24 0 36ZM24 42V16l-4-6',
  flower:
    'M24 18a5 5 0 1 0 .1 0M24 12a7 7 0 0 1 6 10 7 7 0 0 1 2 12 7 7 0 0 1-16 0 7 7 0 0 1 2-12 7 7 0 0 1 6-10M24 40v6',
  slide: 'M10 8v32M10 18h14v10H10M30 22l8 12M38 34v-6M38 34h-6',
  gap: 'M8 8c8 10 8 22 0 32M20 10v28M20 10h6v28h-6',
  bubble: 'M8 12h32v26H8ZM16 24a3 3 0 1 0 .1 0M28 20a4 4 0 1 0 .1 0M30 32a2 2 0 1 0 .1 0',
  lean: 'M8 42h32M20 42l8-32 8 2-8 30',
  syrup: 'M10 38h28M14 30l4-6 5 4 4-8 7 10M12 34h24',
  colour: 'M8 14h16v22H8ZM24 14h16v22H24ZM28 18l8 8M28 26l8 8',
  pair: 'M6 38c0-20 14-20 14 0ZM28 38c0-14 12-14 12 0Z',
  seam: 'M6 24h36M12 20v8M20 20v8M28 20v8M36 20v8',
  loops: 'M24 24C10 10 4 18 6 26s12 6 18-2c14-14 20-6 18 2s-12 6-18-2',
  wait: 'M12 8h24M12 40h24M14 8c0 10 20 22 20 32M34 8c0 10-20 22-20 32',
}
const of: Record<string, string> = {
  reliefFlat: 'flat',
  textureFaint: 'flat',
  scallopFlat: 'flat',
  tipsMissing: 'tips',
  flange: 'rim',
  hollowBack: 'hollow',
  bladeDrags: 'blade',
  laceHole: 'hole',
  laceSlides: 'slide',
  stuckInMould: 'stuck',
  stuckInCutter: 'cutter',
  distorted: 'bent',
  stretched: 'long',
  pasteLifts: 'sticky',
  creases: 'lines',
  foldShows: 'lines',
  textureDoubled: 'lines',
  sameFaultEachCast: 'pair',
  pairUnlike: 'pair',
  halfSize: 'pair',
  whiteFilm: 'film',
  gritty: 'film',
  dew: 'drops',
  sweats: 'drops',
  stringBreaks: 'snaps',
  openworkSnaps: 'snaps',
  slimSnaps: 'snaps',
  raggedWindows: 'edge',
  raggedCut: 'edge',
  skirtRagged: 'edge',
  sheetSticks: 'sticky',
  tackyPaste: 'sticky',
  domeSticky: 'sticky',
  rulerSticks: 'sticky',
  wavyRibbon: 'strip',
  ruffleGappy: 'strip',
  tornRibbon: 'torn',
  sheetRips: 'torn',
  sheetWelds: 'torn',
  doughSoft: 'soft',
  doughHard: 'crack',
  crumbly: 'crack',
  paintCracks: 'crack',
  petalCracks: 'petal',
  willNotFirm: 'wait',
  loopsCollapse: 'loops',
  flowerSlides: 'flower',
  dustHarsh: 'dust',
  dustRubsOff: 'dust',
  paintSeeThrough: 'paint',
  paintGloopy: 'paint',
  paintOnCake: 'paint',
  penSmears: 'paint',
  ridgeShows: 'seam',
  seamShows: 'seam',
  partSlides: 'slide',
  gapOnTier: 'gap',
  cornerGap: 'gap',
  lastGap: 'gap',
  syrupGrains: 'syrup',
  syrupYellow: 'syrup',
  gelatineBad: 'soft',
  tracedHole: 'hole',
  colourBleeds: 'colour',
  colourOff: 'colour',
  bubbles: 'bubble',
  iceInPiece: 'bubble',
  leans: 'lean',
}
const path = computed(() => drawn[of[props.code] ?? 'crack'])
</script>

<template>
  <svg viewBox="0 0 48 48" width="44" height="44" aria-hidden="true"><path :d="path" /></svg>
</template>

<style scoped>
svg {
  flex: none;
}
path {
  fill: none;
  stroke: var(--moss);
  stroke-width: 2;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
