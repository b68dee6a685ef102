<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take, type CommissionView } from '../api/client'
import { useAct, useStudio } from '../api/queries'
import CautionList from '../parts/CautionList.vue'
import LastTimes from '../parts/LastTimes.vue'
import LoadState from '../parts/LoadState.vue'
import RowForm from '../parts/RowForm.vue'
import WhyNumber from '../parts/WhyNumber.vue'
import { offerUndo } from '../parts/undo'
import { usePiece } from './pieceChoice'
import PiecesScale from '../pictures/PiecesScale.vue'
import NewPiece from './NewPiece.vue'
import PartsList from './PartsList.vue'
import PieceList from './PieceList.vue'
import WaysAsked from './WaysAsked.vue'

const props = defineProps<{ commission: CommissionView }>()
const { row, piece, read, choose } = usePiece(() => props.commission)
const studio = useStudio()
const adding = ref(false)
const duplicate = useAct((s, id: number) =>
  take(api.POST('/s/{studio}/pieces/{id}/duplicate', { params: { path: { studio: s, id } } })),
)
const move = useAct((s, x: { id: number; way: 'up' | 'down' }) =>
  take(api.POST('/s/{studio}/pieces/{id}/move/{way}', { params: { path: { studio: s, ...x } } })),
)
const remove = useAct((s, x: { id: number; back: boolean }) => {
  const params = { params: { path: { studio: s, kind: 'pieces' as const, id: x.id } } }
  return take(
    x.back
      ? api.POST('/s/{studio}/rows/{kind}/{id}/restore', params)
      : api.POST('/s/{studio}/rows/{kind}/{id}/remove', params),
  )
})
async function away() {
  const p = row.value
  if (!p) return
  await remove.mutateAsync({ id: p.id, back: false })
  offerUndo(`${p.name}: taken off the list.`, () => void remove.mutateAsync({ id: p.id, back: true }))
}
async function copy() {
  if (row.value) choose((await duplicate.mutateAsync(row.value.id)).id)
}
function made(id: number) {
  adding.value = false
  choose(id)
}
</script>

<template>
  <div class="frame">
    <div class="stack side">
      <PieceList
        :commission="commission"
        :chosen="adding ? undefined : row?.id"
        @choose="(id) => ((adding = false), choose(id))"
      />
      <Button label="Add a piece" severity="secondary" outlined @click="adding = true" />
      <RouterLink :to="`/s/${studio}/drawer`" class="small">Tools are in the tool drawer</RouterLink>
    </div>
    <section v-if="adding || !row" class="stack">
      <h2>A new piece</h2>
      <NewPiece :commission="commission.id" @made="made" @leave="adding = false" />
    </section>
    <section v-else class="stack" :aria-label="row.name">
      <header class="row">
        <span class="pat" :style="{ background: row.swatch }" aria-hidden="true"></span>
        <h2>{{ row.name }}: {{ row.needed }}</h2>
        <span v-if="piece?.way" class="quiet">{{ piece.way.name }}</span>
        <span class="row acts">
          <Button label="Up" size="small" severity="secondary" text @click="move.mutate({ id: row.id, way: 'up' })" />
          <Button
            label="Down"
            size="small"
            severity="secondary"
            text
            @click="move.mutate({ id: row.id, way: 'down' })"
          />
          <Button label="Duplicate" size="small" severity="secondary" text @click="copy" />
          <Button label="Remove" size="small" severity="secondary" text @click="away" />
        </span>
      </header>
      <PiecesScale :commission="commission" :chosen="row.id" @choose="choose" />
      <p v-if="row.missing" class="soon" role="status">{{ row.missing }}</p>
      <LoadState :error="read.error.value" :loading="read.isPending.value" @again="read.refetch()" />
      <template v-if="piece">
        <CautionList :cautions="piece.cautions" />
        <LastTimes :last="piece.last" />
        <ul v-if="piece.fits.length" class="flour fits" aria-label="How many fit">
          <li v-for="f in piece.fits" :key="f.unit">
            <b>{{ f.text }}</b> <span class="quiet small">{{ f.unit }}</span>
            <WhyNumber :why="f.why" :of="`${f.text}, ${f.unit}`" />
          </li>
        </ul>
        <PartsList :commission="commission" :piece="piece" @choose="choose" />
        <RowForm :id="piece.id" :key="piece.id" kind="pieces" :version="piece.version" :fields="piece.fields" />
        <WaysAsked :piece="piece" />
      </template>
    </section>
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  gap: 20px;
}
.side {
  align-content: start;
}
.fits {
  list-style: none;
  margin: 0;
  padding: 10px 18px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 26px;
}
.fits b {
  font-size: 20px;
  font-variant-numeric: tabular-nums;
}
.acts {
  margin-left: auto;
  gap: 2px;
}
@media (max-width: 900px) {
  .frame {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
