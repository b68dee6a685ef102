<script setup lang="ts">
import { computed, defineAsyncComponent, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCommission, useStudio } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import TroubleList from '../parts/TroubleList.vue'
import { useKeys } from '../parts/keys'
import FrondPicture from '../pictures/FrondPicture.vue'
import BriefStage from '../stages/BriefStage.vue'
import JournalStage from '../stages/JournalStage.vue'
import ColourStage from '../stages/ColourStage.vue'
import DryStage from '../stages/DryStage.vue'
import LineStage from '../stages/LineStage.vue'
import MakeStage from '../stages/MakeStage.vue'
import PasteStage from '../stages/PasteStage.vue'
import PiecesStage from '../stages/PiecesStage.vue'

const route = useRoute()
const router = useRouter()
const studio = useStudio()
const id = computed(() => Number(route.params.id))
const found = useCommission(id)
const c = computed(() => found.data.value)
const stage = computed(() => String(route.params.stage || 'brief'))
const stages = {
  brief: BriefStage,
  pieces: PiecesStage,
  paste: PasteStage,
  colour: ColourStage,
  make: MakeStage,
  dry: DryStage,
  finish: defineAsyncComponent(() => import('../stages/FinishStage.vue')),
  assemble: defineAsyncComponent(() => import('../stages/AssembleStage.vue')),
  leaving: defineAsyncComponent(() => import('../stages/LeavingStage.vue')),
  line: LineStage,
  journal: JournalStage,
}
const shown = computed(() => stages[stage.value as keyof typeof stages])
const to = (s: string) => `/s/${studio.value}/commissions/${id.value}/${s}`
const open = (s: string) => void router.push({ path: to(s), query: route.query })
useKeys({
  '1': () => open('brief'),
  '2': () => open('pieces'),
  '3': () => open('paste'),
  '4': () => open('colour'),
  '5': () => open('make'),
  '6': () => open('dry'),
  '7': () => open('finish'),
  '8': () => open('assemble'),
  '9': () => open('leaving'),
  l: () => open('line'),
})
watch(
  () => c.value?.title,
  (t) => (document.title = t ? `${t} · Dusty Fern` : 'Dusty Fern'),
)
</script>

<template>
  <div>
    <LoadState :error="found.error.value" :loading="found.isPending.value" @again="found.refetch()" />
    <template v-if="c && !found.error.value">
      <header class="head">
        <FrondPicture :leaves="c.frond" :size="58" />
        <div>
          <h1>{{ c.title }}</h1>
          <p class="quiet">
            <template v-if="c.says">{{ c.says }} · </template>
            <template v-if="c.handOver"
              >handed over <b>{{ c.handOver }}</b>, {{ c.in }}</template
            >
            <template v-else>no hand-over date yet</template>
            <template v-if="c.beginBy">
              · begin by <b>{{ c.beginBy }}</b></template
            >
          </p>
          <p v-if="c.guests" class="guests">{{ c.guests }}</p>
        </div>
        <RouterLink :to="to('journal')" class="toline right" :class="{ on: stage === 'journal' }">Journal</RouterLink>
        <RouterLink :to="to('line')" class="toline" :class="{ on: stage === 'line' }">The line <kbd>L</kbd></RouterLink>
      </header>
      <nav class="stem" aria-label="Stages">
        <RouterLink
          v-for="s in c.stages"
          :key="s.code"
          :to="{ path: to(s.code), query: $route.query }"
          class="leaf"
          :class="{ on: stage === s.code }"
          :aria-current="stage === s.code ? 'step' : undefined"
        >
          <svg width="24" height="22" viewBox="0 0 30 26" aria-hidden="true">
            <path d="M2 24C3 12 13 5 28 2c-1 13-9 22-26 22Z" :class="{ settled: s.settled }" />
          </svg>
          <span>{{ s.label }}</span>
          <kbd aria-hidden="true">{{ s.key }}</kbd>
          <span class="vh">{{ s.settled ? 'settled' : 'open' }}</span>
        </RouterLink>
      </nav>
      <TroubleList v-if="stage !== 'line'" :troubles="c.troubles" inside class="wrong" />
      <component :is="shown" v-if="shown" :key="stage" :commission="c" />
      <div v-else class="flour nowhere">
        <h2>There is no such stage</h2>
        <RouterLink :to="to('brief')">To the brief</RouterLink>
      </div>
    </template>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 14px;
  align-items: flex-start;
}
.head p {
  margin: 4px 0 0;
}
.toline.right {
  margin-left: auto;
}
.toline {
  min-height: 44px;
  padding: 10px 14px;
  border: 1px solid var(--linen);
  border-radius: 6px;
  background: var(--flour);
  color: var(--ink);
  text-decoration: none;
  font-weight: 600;
  white-space: nowrap;
}
.toline.on {
  border-color: var(--fern);
}
.wrong {
  margin-bottom: 14px;
}
.stem {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  justify-content: space-between;
  margin: 16px 0 14px;
  border-bottom: 2px solid var(--moss);
}
.leaf {
  display: inline-flex;
  align-items: flex-end;
  gap: 4px;
  padding: 8px 2px 6px 0;
  min-height: 44px;
  color: var(--quiet);
  text-decoration: none;
  position: relative;
}
.leaf path {
  fill: none;
  stroke: var(--fern);
  stroke-width: 1.6;
}
.leaf path.settled {
  fill: var(--fern);
}
.leaf.on {
  color: var(--ink);
  font-weight: 650;
}
.leaf.on::after {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  bottom: -3px;
  height: 4px;
  border-radius: 4px;
  background: var(--fern);
}
.nowhere {
  padding: 20px;
}
@media (max-width: 720px) {
  .head {
    flex-wrap: wrap;
  }
  .toline {
    margin-left: 0;
  }
  .stem {
    gap: 2px 14px;
  }
  .leaf kbd {
    display: none;
  }
}
</style>
