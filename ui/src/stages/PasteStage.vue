<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import type { CommissionView } from '../api/client'
import FewestPastes from './FewestPastes.vue'
import MixBox from './MixBox.vue'
import CautionList from '../parts/CautionList.vue'
import SideChoice from '../parts/SideChoice.vue'
import { useSaving } from '../parts/saving'
import WhyNumber from '../parts/WhyNumber.vue'
import FirmnessRail from '../pictures/FirmnessRail.vue'
import { usePiece } from './pieceChoice'
import StageFrame from './StageFrame.vue'

const props = defineProps<{ commission: CommissionView }>()
const { row, piece, read, choose } = usePiece(() => props.commission)
const paste = computed(() => piece.value?.paste)
const { errors, clashes, save } = useSaving(() => ({
  kind: 'pieces',
  id: piece.value?.id ?? 0,
  version: piece.value?.version ?? 0,
}))
const setPeg = (e: number) => save({ peg: String(e), school: '', dough: '' })
const own = computed(() => {
  const s = piece.value?.settings
  return !!(s?.peg || s?.school || s?.dough)
})
const fault = computed(
  () =>
    Object.values(errors)[0] ??
    (Object.keys(clashes).length
      ? 'Changed meanwhile in another window: this is how it stands now. Choose again.'
      : ''),
)
</script>

<template>
  <StageFrame :commission="commission" :row="row" :read="read" @choose="choose">
    <template v-if="paste && piece">
      <FirmnessRail :key="piece.id" :paste="paste" @peg="setPeg" />
      <div class="row says">
        <span v-if="paste.peg">
          <b>{{ paste.pegSays }}</b>, {{ paste.peg.text }} {{ paste.peg.unit }}
          <WhyNumber :why="paste.peg.why" :of="`${paste.peg.text} ${paste.peg.unit}`" />
        </span>
        <span class="quiet">{{ paste.windowSays }}</span>
        <Button
          v-if="own"
          :label="paste.advisedSays ? `Back to the advice: ${paste.advisedSays}` : 'Back to the advice'"
          size="small"
          severity="secondary"
          outlined
          @click="save({ peg: '', school: '', dough: '' })"
        />
      </div>
      <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
      <p v-if="paste.broken.length" class="danger" role="status">What this gives up: {{ paste.broken.join(', ') }}.</p>
      <div v-if="paste.clash.length" class="clash" role="status">
        <h3>Two demands leave no room between them</h3>
        <p>
          <b>{{ paste.clash[0] }}</b> against <b>{{ paste.clash[1] }}</b>
        </p>
      </div>
      <ul v-if="paste.ways.length" class="ways">
        <li v-for="w in paste.ways" :key="w.do + w.applied">
          <Button
            :label="w.applied ? `${w.say}: take it back` : w.say"
            size="small"
            :severity="w.applied ? 'secondary' : undefined"
            :outlined="w.applied"
            @click="save(w.set)"
          />
          <span class="small quiet">{{ w.why }}</span>
        </li>
      </ul>
      <div class="mix">
        <template v-for="(m, i) in paste.mix" :key="m.name">
          <span v-if="i" class="plus" aria-hidden="true">+</span>
          <div class="part">
            <span class="big grams">{{ m.grams.text }}</span>
            <span class="small"
              >{{ m.name }}<br /><span class="quiet">{{ m.note }}</span></span
            >
          </div>
        </template>
        <WhyNumber v-if="paste.mix[0]" :why="paste.mix[0].grams.why" of="What is mixed" />
      </div>
      <p v-if="paste.mixSays" class="quiet">{{ paste.mixSays }}</p>
      <p v-else-if="!paste.mix.length && paste.peg" class="quiet">
        The grams follow when one piece is weighed: see Make.
      </p>
      <p v-if="paste.rest">{{ paste.rest }}</p>
      <details v-if="paste.knead.length && paste.mix.length" class="knead">
        <summary>The knead, movement by movement</summary>
        <ol>
          <li v-for="k in paste.knead" :key="k">{{ k }}</li>
        </ol>
      </details>
      <p v-if="paste.short" class="danger" role="status">{{ paste.short }}</p>
      <p v-for="r in paste.refused" :key="r" class="danger small">{{ r }}</p>
      <p v-for="n in paste.notes" :key="n" class="quiet small">{{ n }}</p>
      <CautionList :cautions="piece.cautions" />
      <SideChoice :questions="paste.sides" />
      <MixBox :key="'m' + piece.id" :piece="piece.id" />
      <section v-if="paste.schools.length" class="schools">
        <h3>Or sugar paste with hardener: three schools</h3>
        <div class="three">
          <article v-for="d in paste.schools" :key="d.code" :class="{ on: d.chosen, out: d.out }">
            <h4>
              {{ d.name }}<template v-if="d.usual">, your usual</template>{{ ' ' }}
              <span class="quiet">{{ d.percent }}, {{ d.strength }}</span>
            </h4>
            <p class="big dose">
              {{ d.powder.text }} <span class="small">in {{ d.plain.text }}</span>
              <WhyNumber :why="d.powder.why" :of="`${d.name}: ${d.powder.text} of powder`" />
            </p>
            <p v-if="d.spoons" class="small">{{ d.spoons }}</p>
            <p class="small quiet">{{ d.rounding }}</p>
            <p class="small quiet">{{ d.spread }}</p>
            <p class="small">{{ d.rest }}</p>
            <p class="small quiet">{{ d.why }}</p>
            <p v-if="d.warning" class="small danger">{{ d.warning }}</p>
            <p v-if="d.out" class="small soon">{{ d.out }}</p>
            <Button
              :label="d.chosen ? 'In use' : `Use the ${d.name} dose`"
              size="small"
              severity="secondary"
              outlined
              :disabled="d.chosen"
              @click="save({ school: d.code, peg: '', dough: '' })"
            />
          </article>
        </div>
      </section>
      <section class="doughs">
        <h3>Chocolate dough and marzipan</h3>
        <p class="quiet small">{{ paste.fatSet }}</p>
        <ul class="ways">
          <li v-for="d in paste.doughs" :key="d.code + d.name">
            <Button
              :label="d.chosen ? `${d.name}: in use` : `Use ${d.name}`"
              size="small"
              severity="secondary"
              outlined
              :disabled="!!d.refused || d.chosen"
              @click="save({ dough: d.code, school: '', peg: '' })"
            />
            <span class="small" :class="d.refused ? 'danger' : 'quiet'">{{ d.refused || d.says }}</span>
          </li>
        </ul>
      </section>
      <FewestPastes :commission="commission" />
    </template>
  </StageFrame>
</template>

<style scoped>
.says {
  margin: 6px 0 10px;
}
.clash {
  background: var(--honey-fill);
  border-radius: 8px;
  padding: 12px 16px;
}
.ways {
  list-style: none;
  padding: 0;
  margin: 10px 0;
  display: grid;
  gap: 8px;
}
.ways li {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
.mix {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 10px 18px;
  border-top: 1px solid var(--linen);
  padding-top: 14px;
  margin-top: 12px;
}
.part {
  display: flex;
  align-items: flex-end;
  gap: 10px;
}
.grams {
  font-size: 42px;
  line-height: 1;
}
.plus {
  font-size: 24px;
  color: var(--quiet);
}
.knead summary {
  min-height: 44px;
  padding: 11px 0;
  display: list-item;
  cursor: pointer;
  font-weight: 550;
}
.schools,
.doughs {
  border-top: 1px solid var(--linen);
  margin-top: 18px;
  padding-top: 14px;
}
.three {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
  gap: 14px;
  margin-top: 10px;
}
.three article {
  border: 1px solid var(--linen);
  border-radius: 8px;
  padding: 12px 14px;
}
.three article.on {
  border-color: var(--fern);
  background: var(--sage-light);
}
.three p {
  margin: 3px 0;
}
h4 {
  margin: 0;
  font-size: 15px;
}
.dose {
  font-size: 20px;
}
.dose .small {
  font-family: 'Figtree Variable', sans-serif;
  letter-spacing: 0;
}
</style>
