<script setup lang="ts">
import { computed } from 'vue'
import type { PieceView } from '../api/client'

// How a piece comes about, step after step: hands as filled blocks, waits as cords between them, one row for each batch.
const props = defineProps<{ make: NonNullable<PieceView['make']> }>()
const first = computed(() => props.make.batches.slice(0, 4))
const more = computed(() => props.make.batches.length - first.value.length)
</script>

<template>
  <section class="chain" aria-label="Step by step">
    <h3>Step by step</h3>
    <p v-if="make.splitSays" class="soon small">{{ make.splitSays }}</p>
    <ol v-for="(b, i) in first" :key="i" class="batch" :aria-label="`Batch ${i + 1}, ${b.pieces} pieces`">
      <li v-if="make.batches.length > 1" class="n">{{ b.pieces }}</li>
      <li v-for="s in b.steps" :key="s.op" :class="s.hands ? 'hands' : 'wait'">
        <b>{{ s.say }}</b>
        <span
          >{{ s.text }}<template v-if="s.rounds">, {{ s.rounds }}</template></span
        >
        <span v-if="s.uses" class="small quiet">{{ s.uses }}</span>
      </li>
    </ol>
    <p v-if="more > 0" class="quiet small">and {{ more }} batches more like these</p>
    <p v-if="make.longest" class="quiet small">{{ make.longest }}</p>
  </section>
</template>

<style scoped>
.chain p {
  margin: 4px 0;
}
.batch {
  list-style: none;
  margin: 8px 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 0;
  align-items: stretch;
}
.batch li {
  display: grid;
  align-content: start;
  gap: 1px;
  padding: 8px 14px;
  font-size: 14px;
  min-width: 84px;
}
.n {
  font-family: 'Fraunces Variable', Fraunces, Georgia, serif;
  font-size: 26px !important;
  align-content: center !important;
  min-width: 0 !important;
}
.hands {
  background: var(--sage-light);
  border: 1px solid var(--fern);
  border-radius: 10px;
}
.wait {
  border-top: 2px dashed var(--quiet);
  margin-top: 14px;
  padding-top: 4px !important;
}
</style>
