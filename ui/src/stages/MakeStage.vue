<script setup lang="ts">
import { computed } from 'vue'
import type { CommissionView, FieldView, Figure } from '../api/client'
import FieldInput from '../parts/FieldInput.vue'
import { useSaving } from '../parts/saving'
import WhyNumber from '../parts/WhyNumber.vue'
import BesidePicture from '../pictures/BesidePicture.vue'
import ChainPicture from '../pictures/ChainPicture.vue'
import DrawnPicture from '../pictures/DrawnPicture.vue'
import RollOut from '../pictures/RollOut.vue'
import HandsLearnt from '../parts/HandsLearnt.vue'
import OwnDrawing from '../parts/OwnDrawing.vue'
import RoundTier from '../parts/RoundTier.vue'
import { useWords } from '../words/words'
import { usePiece } from './pieceChoice'
import StageFrame from './StageFrame.vue'

const props = defineProps<{ commission: CommissionView }>()
const w = useWords()
const { row, piece, read, choose } = usePiece(() => props.commission)
const { errors, saved, save } = useSaving(() => ({
  kind: 'pieces',
  id: piece.value?.id ?? 0,
  version: piece.value?.version ?? 0,
}))
const trial = computed<FieldView>(() => ({
  name: 'trial',
  label: 'One trial piece, trimmed, weighs',
  kind: 'text',
  group: '',
  text: piece.value?.settings.trial ?? '',
  hint: '4.2 g, 1/8 oz; a spoon measure is taken as an estimate',
}))
const make = computed(() => piece.value?.make)
const times = computed(() => {
  const m = make.value
  const rows: { say: string; figure: Figure; more: string }[] = []
  if (!m) return rows
  rows.push({ say: m.word === 'ball' ? 'Balls to make' : 'Pieces to make', figure: m.balls, more: m.spares })
  rows.push({ say: 'Paste to knead', figure: m.paste, more: '' })
  if (m.rounds)
    rows.push({
      say: m.word === 'ball' ? w('Fills of the mould') : `Rounds, ${m.rounds.unit}`,
      figure: m.rounds,
      more: m.limitedBy,
    })
  if (m.bench) rows.push({ say: 'Of hands', figure: m.bench, more: 'in all the rounds' })
  if (m.waiting?.value)
    rows.push({ say: 'Waiting between', figure: m.waiting, more: 'at the bench, within the rounds' })
  return rows
})
</script>

<template>
  <StageFrame :commission="commission" :row="row" :read="read" @choose="choose">
    <template v-if="piece">
      <FieldInput
        :key="piece.id"
        :field="trial"
        :error="errors.trial"
        :saved="saved.trial"
        class="trial"
        @save="(t) => save({ trial: t })"
      />
      <template v-if="make">
        <div class="ball">
          <span class="big huge">{{ make.ball.text }}</span>
          <span>
            each {{ make.word }}, {{ make.tolerance }}
            <WhyNumber :why="make.ball.why" :of="`Each ${make.word}: ${make.ball.text}`" /><br />
            <span v-if="make.word === 'ball'" class="quiet">by {{ make.from }}</span>
            <template v-if="make.weighed"
              ><br /><span class="quiet">{{ make.weighed }}</span></template
            >
          </span>
        </div>
        <p v-if="make.note" class="soon" role="status">{{ make.note }}</p>
        <table class="facts times">
          <caption class="vh">
            The batch
          </caption>
          <tbody>
            <tr v-for="t in times" :key="t.say">
              <th scope="row">{{ t.say }}</th>
              <td class="num big">
                {{ t.figure.text }} <WhyNumber :why="t.figure.why" :of="`${t.say}: ${t.figure.text}`" />
              </td>
              <td class="quiet">{{ t.more }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="piece.made" class="made"><b>Made so far</b> {{ piece.made }}</p>
        <BesidePicture v-if="piece.beside.length" :beside="piece.beside" :at="piece.id" @choose="choose" />
        <DrawnPicture v-for="d in make.pictures" :key="d.says" :drawn="d" :swatch="piece.swatch" />
        <RollOut
          v-if="make.rollOut"
          :key="`roll${piece.id}`"
          :roll="make.rollOut"
          :piece="piece.id"
          :swatch="piece.swatch"
          :name="piece.name"
        />
        <OwnDrawing v-if="make.draws" :key="`own${piece.id}`" :piece="piece.id" :what="make.draws" :path="make.drawn" />
        <RoundTier v-if="make.onTiers" :key="`round${piece.id}`" :piece="piece.id" :swatch="piece.swatch" />
        <ChainPicture v-if="make.batches.length" :make="make" />
        <HandsLearnt :key="`hands${piece.id}`" :piece="piece.id" :make="make" />
        <h3 v-if="piece.paste?.mix.length">Of which paste</h3>
        <ul>
          <li v-for="m in piece.paste?.mix ?? []" :key="m.name">
            <b>{{ m.grams.text }}</b> {{ m.name }} <span class="quiet">{{ m.note }}</span>
          </li>
        </ul>
      </template>
      <p v-else-if="!piece.missing" class="quiet">
        Weigh one trial piece: balls, spares, grams and rounds follow from it.
      </p>
    </template>
  </StageFrame>
</template>

<style scoped>
.trial {
  max-width: 340px;
  margin: 12px 0 18px;
}
.ball {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 14px;
  margin-bottom: 12px;
}
.huge {
  font-size: 64px;
  line-height: 1;
}
.num {
  font-size: 20px;
  white-space: nowrap;
}
@media (max-width: 600px) {
  .times tr {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 0 12px;
    border-bottom: 1px solid var(--linen);
    padding: 6px 0;
  }
  .times tr > * {
    border: 0;
    padding: 0;
  }
  .times td:last-child {
    flex: 1 0 100%;
  }
}
</style>
