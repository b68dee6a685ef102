<script setup lang="ts">
import { computed } from 'vue'
import type { CommissionView } from '../api/client'
import { useShelf } from '../api/drying'
import { useStudio } from '../api/queries'
import FieldInput from '../parts/FieldInput.vue'
import NoteButtons from '../parts/NoteButtons.vue'
import { useSaving } from '../parts/saving'
import WhyNumber from '../parts/WhyNumber.vue'
import DryingBand from '../pictures/DryingBand.vue'
import { usePiece } from './pieceChoice'
import StageFrame from './StageFrame.vue'

const props = defineProps<{ commission: CommissionView }>()
const { row, piece, read, choose } = usePiece(() => props.commission)
const studio = useStudio()
const shelf = useShelf()
const lying = computed(() => {
  const seen = new Set<string>()
  return (shelf.data.value?.racks ?? [])
    .flatMap((r) => [...r.trays.flatMap((t) => t.batches), ...r.loose])
    .filter((b) => b.pieceId === piece.value?.id && !seen.has(b.op) && seen.add(b.op))
})
const where = computed(() => piece.value?.fields.filter((f) => f.name === 'rack' || f.name === 'support') ?? [])
const saving = useSaving(() => ({ kind: 'pieces', id: piece.value?.id ?? 0, version: piece.value?.version ?? 0 }))
</script>

<template>
  <StageFrame :commission="commission" :row="row" :read="read" @choose="choose">
    <template v-if="piece?.dry">
      <p>
        {{ piece.dry.sets ? 'It sets by temperature' : 'It dries' }} in <b>{{ piece.dry.room }}</b>.
        <RouterLink :to="`/s/${studio}/room`">Room and air</RouterLink>
        <WhyNumber :why="piece.dry.why" of="Times of drying" />
      </p>
      <div class="where">
        <FieldInput
          v-for="f in where"
          :key="f.name"
          :field="f"
          :error="saving.errors[f.name]"
          @save="(t) => saving.save({ [f.name]: t })"
        />
      </div>
      <div v-if="piece.dry.never" class="never" role="status">
        <h3>{{ piece.dry.never }}</h3>
        <p v-if="piece.dry.help.length">What would help:</p>
        <ul>
          <li v-for="h in piece.dry.help" :key="h">{{ h }}</li>
        </ul>
      </div>
      <DryingBand v-if="piece.dry.stages.length" :dry="piece.dry" :swatch="piece.swatch" />
      <p v-if="piece.dry.learnt">
        {{ piece.dry.learnt }} <RouterLink :to="`/s/${studio}/notebook`">Notebook</RouterLink>
      </p>
      <p v-for="n in piece.dry.notes" :key="n" class="soon">{{ n }}</p>
      <section v-for="b in lying" :key="b.op" class="lies" :aria-label="`${b.name} on the shelf`">
        <h3>
          {{ b.all }} lie on {{ b.support }} since {{ b.since }}:
          <span :class="{ danger: b.never }">{{ b.next }}</span> ·
          <RouterLink :to="`/s/${studio}/shelf`" class="small">on the shelf</RouterLink>
        </h3>
        <NoteButtons :op="b.op" :offers="b.offers.slice(0, 6)" :name="b.name" />
        <ul v-if="b.notes.length" class="quiet small">
          <li v-for="n in b.notes" :key="n">{{ n }}</li>
        </ul>
      </section>
      <details v-if="piece.dry.tries.length" class="tries">
        <summary>What if</summary>
        <table class="facts">
          <caption class="vh">
            Changes and the times they would give
          </caption>
          <thead>
            <tr>
              <th scope="col">change, cheapest first</th>
              <th scope="col">ready after</th>
              <th scope="col">that is</th>
              <th scope="col">it takes</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="t in piece.dry.tries" :key="t.says">
              <th scope="row">{{ t.says }}</th>
              <td>
                {{ t.when }} <span class="quiet small">{{ t.band }}</span>
              </td>
              <td :class="{ better: t.better }">{{ t.saves }}</td>
              <td class="quiet">{{ t.costs }}</td>
            </tr>
          </tbody>
        </table>
      </details>
      <section v-if="piece.dry.habits.length" aria-label="How long to wait">
        <h3>How long good makers wait</h3>
        <p v-for="h in piece.dry.habits" :key="h.says">
          <b>{{ h.says }}</b>: {{ h.ready }}, {{ h.costs }}<template v-if="h.sure">; {{ h.sure }}</template
          >. <span class="quiet">{{ h.why }}.</span>
        </p>
      </section>
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
.where {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
  margin: 8px 0 12px;
}
.lies {
  margin: 14px 0;
  padding: 12px 16px;
  border: 1px solid var(--linen);
  border-radius: 8px;
}
.lies h3 {
  margin-bottom: 8px;
}
.tries summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
.better {
  color: var(--fern);
  font-weight: 600;
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
