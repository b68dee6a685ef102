<script setup lang="ts">
import { computed } from 'vue'
import type { PatView } from '../api/client'

// Pats of paste on a neutral board: its grey does not tint the eye. The target
// lies under each of them, so that edge meets edge.
const props = defineProps<{ pats: PatView[] }>()
const target = computed(() => props.pats.find((p) => p.kind === 'target'))
const others = computed(() => props.pats.filter((p) => p.kind !== 'target'))
const ink = (dark: boolean) => (dark ? '#ffffff' : '#1a1a1a')
</script>

<template>
  <div v-if="target" class="bench">
    <figure v-for="(p, i) in others" :key="p.kind + p.say" class="pat-of">
      <svg viewBox="0 0 150 104" aria-hidden="true">
        <path
          d="M10 60C4 36 22 14 52 12c30-4 66-4 82 16 14 20 8 46-14 58-28 12-96 10-110-26Z"
          :fill="target.hex"
          transform="translate(0 8)"
        />
        <path
          :d="
            i % 2
              ? 'M30 46C26 26 48 10 78 12c32 0 62 10 60 36-2 24-28 34-58 33-28 0-46-13-50-35Z'
              : 'M28 48C22 24 46 8 80 10c34 2 62 14 58 40-4 24-34 32-62 30-26-2-44-12-48-32Z'
          "
          :fill="p.hex"
        />
        <path v-if="p.flash" d="M60 24c18-8 44-6 58 6-16-2-38-2-58-6Z" :fill="p.flash" />
      </svg>
      <figcaption>
        <b>{{ p.say }}</b><br />
        <span>looks like {{ p.named }}</span
        ><br />
        <span>{{ p.off }}</span>
        <template v-if="p.flash"><br /><span>flashes in the light</span></template>
        <template v-if="p.note"
          ><br /><span class="note">{{ p.note }}</span></template
        >
      </figcaption>
    </figure>
    <p class="wanted">
      <span class="chip" :style="{ background: target.hex, color: ink(target.dark) }">wanted: {{ target.named }}</span>
      lies under each pat. Dusts are eaten only when their label calls them edible.
    </p>
  </div>
</template>

<style scoped>
.bench {
  background: #c3c3c3;
  color: #1a1a1a;
  border-radius: 8px;
  padding: 12px 14px 10px;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: 8px 12px;
  margin: 12px 0 16px;
}
figure {
  margin: 0;
}
figcaption {
  font-size: 13px;
  line-height: 1.35;
}
.note {
  font-size: 12.5px;
}
svg text {
  font:
    600 13px 'Figtree Variable',
    sans-serif;
}
.wanted {
  grid-column: 1 / -1;
  margin: 0;
  font-size: 13px;
}
.chip {
  padding: 3px 9px;
  border-radius: 4px;
  font-weight: 600;
}
</style>
