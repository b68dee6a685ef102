<script setup lang="ts">
import type { CommissionView } from '../api/client'
import { useStudio } from '../api/queries'
import WhyNumber from '../parts/WhyNumber.vue'
import DryingBand from '../pictures/DryingBand.vue'
import { usePiece } from './pieceChoice'
import StageFrame from './StageFrame.vue'

const props = defineProps<{ commission: CommissionView }>()
const { row, piece, read, choose } = usePiece(() => props.commission)
const studio = useStudio()
</script>

<template>
  <StageFrame :commission="commission" :row="row" :read="read" @choose="choose">
    <template v-if="piece?.dry">
      <p>
        {{ piece.dry.sets ? 'It sets by temperature' : 'It dries' }} in <b>{{ piece.dry.room }}</b>.
        <RouterLink :to="`/s/${studio}/kitchen`">Change the room</RouterLink>
        <WhyNumber :why="piece.dry.why" of="Times of drying" />
      </p>
      <div v-if="piece.dry.never" class="never" role="status">
        <h3>{{ piece.dry.never }}</h3>
        <p v-if="piece.dry.help.length">What would help:</p>
        <ul>
          <li v-for="h in piece.dry.help" :key="h">{{ h }}</li>
        </ul>
      </div>
      <DryingBand v-if="piece.dry.stages.length" :dry="piece.dry" :swatch="piece.swatch" />
      <p v-for="n in piece.dry.notes" :key="n" class="soon">{{ n }}</p>
      <section v-if="piece.dry.dew.length" class="dew">
        <h3>Out of the freezer</h3>
        <p v-for="d in piece.dry.dew" :key="d">{{ d }}</p>
      </section>
    </template>
  </StageFrame>
</template>

<style scoped>
.never {
  border-left: 4px solid var(--rosehip);
  background: var(--honey-fill);
  padding: 12px 16px;
  border-radius: 0 8px 8px 0;
  margin-bottom: 14px;
}
.dew {
  margin-top: 16px;
  padding: 12px 16px;
  background: var(--dusk-fill);
  border-radius: 8px;
}
.dew p {
  margin: 3px 0;
}
</style>
