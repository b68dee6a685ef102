<script setup lang="ts">
import type { BenchView } from '../api/client'
import WhyNumber from './WhyNumber.vue'

// What hands do now, and the figure they do it by: of a movement of a round, or of a whole step.
defineProps<{ step: NonNullable<BenchView['now']>; move: BenchView['move']; kept: string; left: string }>()
</script>

<template>
  <template v-if="move">
    <h2 class="step">{{ move.say }}</h2>
    <p class="sub">{{ move.sub }}</p>
    <p v-if="kept" class="sub soon" role="status">{{ kept }}</p>
    <ol v-if="move.steps.length" class="round">
      <li v-for="s in move.steps" :key="s">{{ s }}</li>
    </ol>
    <p v-if="move.do === 'wait'" class="huge" role="timer">{{ left }}</p>
    <template v-else-if="step.figures[0]">
      <p class="huge">{{ step.figures[0].text }}</p>
      <p class="quiet">
        {{ step.figures[0].unit }}
        <WhyNumber :why="step.figures[0].why" :of="`${step.figures[0].text}, ${step.figures[0].unit}`" />
      </p>
      <p v-if="step.figures.length > 2" class="beside">
        <span v-for="(f, i) in step.figures.slice(2)" :key="f.unit + i"
          ><b>{{ f.text }}</b> <span class="quiet">{{ f.unit }}</span></span
        >
      </p>
    </template>
  </template>
  <template v-else>
    <h2 class="step">{{ step.title }}</h2>
    <p v-if="kept" class="sub soon" role="status">{{ kept }}</p>
    <div class="figures">
      <div v-for="(f, i) in step.figures" :key="f.unit + i">
        <p class="huge">{{ f.text }}</p>
        <p class="quiet">{{ f.unit }} <WhyNumber :why="f.why" :of="`${f.text}, ${f.unit}`" /></p>
      </div>
    </div>
    <p v-for="s in step.says" :key="s" class="say">{{ s }}</p>
  </template>
</template>

<style scoped>
.step {
  font-size: clamp(30px, 4.2vw, 56px);
  line-height: 1.1;
  margin: 6px 0;
}
.sub {
  font-size: 22px;
  margin: 0;
}
.round {
  font-size: 19px;
  margin: 8px 0 0;
  padding-left: 24px;
}
.huge {
  font-family: 'Fraunces Variable', Fraunces, Georgia, serif;
  font-size: clamp(64px, 11vw, 150px);
  line-height: 1.05;
  margin: 10px 0 4px;
  font-variant-numeric: tabular-nums;
}
.beside {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 28px;
  font-size: 22px;
  margin: 8px 0 0;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 0 40px;
}
.figures .huge {
  font-size: clamp(48px, 7vw, 96px);
}
.say {
  font-size: 19px;
}
</style>
