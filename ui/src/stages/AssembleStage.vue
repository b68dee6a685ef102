<script setup lang="ts">
import { computed, ref } from 'vue'
import { Refused, type CommissionView } from '../api/client'
import { useJoinHeld, useLeaving } from '../api/ending'
import FieldInput from '../parts/FieldInput.vue'
import { useSaving } from '../parts/saving'
import WhyNumber from '../parts/WhyNumber.vue'
import CakeOrder from '../pictures/CakeOrder.vue'
import { usePiece } from './pieceChoice'
import StageFrame from './StageFrame.vue'

const props = defineProps<{ commission: CommissionView }>()
const { row, piece, read, choose } = usePiece(() => props.commission)
const join = computed(() => piece.value?.join)
const saving = useSaving(() => ({ kind: 'pieces', id: piece.value?.id ?? 0, version: piece.value?.version ?? 0 }))
const leaving = useLeaving(() => props.commission.id)
const held = useJoinHeld()
const said = ref('')
async function note(did: 'held' | 'fell') {
  said.value = ''
  try {
    await held.mutateAsync({ id: piece.value?.id ?? 0, did })
    said.value = did === 'held' ? 'Noted: they held.' : 'Noted: a join came off. Its limit is lower from now on.'
  } catch (err) {
    said.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not noted.'
  }
}
</script>

<template>
  <div>
    <CakeOrder v-if="leaving.data.value" :at-cake="leaving.data.value.atCake" @choose="choose" />
    <StageFrame :commission="commission" :row="row" :read="read" @choose="choose">
      <p v-if="piece && !join" class="quiet">
        What holds it follows from its weight and its size: settle Pieces and Make first.
      </p>
      <template v-if="join">
        <p class="says" :class="{ danger: !join.fits }">
          <b>{{ join.says }}</b>
        </p>
        <p v-if="join.clash" class="danger" role="alert">{{ join.clash }}</p>
        <div v-if="join.figures.length" class="figures">
          <p v-for="f in join.figures" :key="f.unit">
            <b>{{ f.text }}</b> <span class="quiet">{{ f.unit }}</span> <WhyNumber :why="f.why" :of="f.unit" />
          </p>
        </div>
        <p v-for="c in join.cautions" :key="c" class="soon">{{ c }}</p>
        <p v-if="join.curve">{{ join.curve }}</p>
        <ol v-if="join.steps.length" class="steps" aria-label="In the order of the hands">
          <li v-for="s in join.steps" :key="s">{{ s }}</li>
        </ol>
        <div class="fields">
          <FieldInput
            v-for="f in join.fields"
            :key="f.name"
            :field="f"
            :error="saving.errors[f.name]"
            @save="(t) => saving.save({ [f.name]: t })"
          />
        </div>
        <p v-if="join.others.length">It would also hold with {{ join.others.join(', ') }}.</p>
        <details v-if="join.refused.length">
          <summary>What would not, and why</summary>
          <ul>
            <li v-for="r in join.refused" :key="r.what">
              <b>{{ r.what }}</b> {{ r.why }}
            </li>
          </ul>
        </details>
        <section v-if="join.schools.length" aria-label="Where good makers differ">
          <h3>Where good makers differ</h3>
          <p v-for="s in join.schools" :key="s.asks">
            <b>{{ s.asks }}</b> Here {{ s.ours }}; others {{ s.other }}.
          </p>
        </section>
        <section aria-label="Did it hold?">
          <h3>Did it hold?</h3>
          <button type="button" class="quietbutton" @click="note('held')">They held</button>
          <button type="button" class="quietbutton" @click="note('fell')">One came off</button>
          <span v-if="said" role="status"> {{ said }}</span>
          <p v-if="join.learnt" class="quiet small">{{ join.learnt }}</p>
        </section>
      </template>
    </StageFrame>
  </div>
</template>

<style scoped>
.says {
  font-size: 20px;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 26px;
}
.figures p {
  margin: 2px 0;
}
.steps {
  margin: 10px 0;
  padding-left: 24px;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
  margin: 12px 0;
}
details summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
.quietbutton {
  min-height: 44px;
  padding: 8px 14px;
  margin-right: 8px;
  border: 1px solid var(--linen);
  border-radius: 6px;
  background: var(--flour);
  color: var(--ink);
  font: inherit;
}
</style>
