<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, Refused, take, type CommissionView } from '../api/client'
import { useAct, useColours, useStudio } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import WhyNumber from '../parts/WhyNumber.vue'
import SwatchBench from '../pictures/SwatchBench.vue'
import { useWords } from '../words/words'
import ColourStripes from './ColourStripes.vue'
import ColourTarget from './ColourTarget.vue'
import ColourTools from './ColourTools.vue'
import RecipeLines from './RecipeLines.vue'

const props = defineProps<{ commission: CommissionView }>()
const w = useWords()
const studio = useStudio()
const route = useRoute()
const router = useRouter()
const found = useColours(() => props.commission.id)
const colours = computed(() => found.data.value?.colours ?? [])
const chosen = computed(() => {
  const piece = Number(route.query.piece)
  return colours.value.find((c) => c.ids.includes(piece)) ?? colours.value[0]
})
const choose = (piece: number) => void router.replace({ path: route.path, query: { piece } })
const fault = ref('')
const act = useAct((s, body: { ids: number[]; from: '' | 'gels' | 'leftovers' | 'asItIs'; gels?: string }) =>
  take(api.POST('/s/{studio}/colour', { params: { path: { studio: s } }, body })),
)
async function set(from: '' | 'gels' | 'leftovers' | 'asItIs', gels = '') {
  fault.value = ''
  if (!chosen.value) return
  try {
    await act.mutateAsync({ ids: chosen.value.ids, from, gels })
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not saved.'
  }
}
</script>

<template>
  <LoadState :error="found.error.value" :loading="found.isPending.value" @again="found.refetch()" />
  <div v-if="found.data.value && !colours.length" class="flour none">
    <h2>{{ w('No colour yet') }}</h2>
    <p>
      Say what goes on it first:
      <RouterLink :to="`/s/${studio}/commissions/${commission.id}/pieces`">add a piece</RouterLink>.
    </p>
  </div>
  <div v-if="chosen && found.data.value" class="frame">
    <aside class="stack">
      <nav class="flour side" :aria-label="w('Colours')">
        <button
          v-for="c in colours"
          :key="c.key"
          type="button"
          class="one"
          :class="{ on: c.key === chosen.key }"
          :aria-current="c.key === chosen.key"
          @click="choose(c.ids[0]!)"
        >
          <span class="dab" :style="{ background: c.target }" aria-hidden="true"></span>
          <span>
            <b>{{ c.name }}</b><br /><span class="small quiet">{{ c.total || 'not weighed' }}</span>
          </span>
        </button>
      </nav>
      <section class="flour board" aria-label="On the board">
        <h2>On the board, light to dark</h2>
        <p class="small quiet">
          {{ found.data.value.boardIn.text }} of wiping
          <WhyNumber :why="found.data.value.boardIn.why" :of="`Wiping: ${found.data.value.boardIn.text}`" />
        </p>
        <ol class="small pats">
          <li v-for="b in found.data.value.board" :key="b.name + b.swatch">
            <span class="pat" :style="{ background: b.swatch }" aria-hidden="true"></span>
            <span
              >{{ b.name }}<br /><span class="quiet">{{ b.clean }}</span></span
            >
          </li>
        </ol>
        <template v-if="found.data.value.kneaded.length">
          <h3>As the plan kneads</h3>
          <template v-for="d in found.data.value.kneaded" :key="d.when">
            <p class="small">
              <b>{{ d.when }}</b>, <span class="quiet">{{ d.clean }}</span>
            </p>
            <ol class="small pats">
              <li v-for="(c, i) in d.colours" :key="i">
                <span class="pat" :style="{ background: c.swatch }" aria-hidden="true"></span> {{ c.name }}
              </li>
            </ol>
          </template>
        </template>
      </section>
    </aside>
    <section class="flour work" :aria-label="chosen.name">
      <header class="row">
        <h2>{{ chosen.name }}</h2>
        <span class="quiet">{{ chosen.pieces.join(', ') }}</span>
      </header>
      <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
      <p v-if="chosen.missing" class="soon" role="status">{{ chosen.missing }}</p>
      <p v-if="chosen.say" class="soon" role="status">{{ chosen.say }}</p>
      <RecipeLines
        v-if="chosen.recipe"
        :recipe="chosen.recipe"
        :base="chosen.base"
        :total="chosen.total"
        :plain="chosen.plain"
        large
      />
      <SwatchBench :pats="chosen.pats" />
      <p v-for="r in chosen.refused" :key="r" class="small danger">{{ r }}</p>
      <div class="row ways">
        <Button
          v-if="chosen.way !== 'gels'"
          label="Mix it with gels"
          size="small"
          severity="secondary"
          outlined
          @click="set('gels')"
        />
        <Button
          v-if="chosen.way !== 'asItIs'"
          label="Leave the paste as it is"
          size="small"
          severity="secondary"
          outlined
          @click="set('asItIs')"
        />
      </div>
      <ColourStripes v-if="chosen.beside.length" :key="'s' + chosen.key" :colour="chosen" />
      <section v-if="chosen.steps.length" class="part">
        <h3>How it goes in</h3>
        <ol>
          <li v-for="s in chosen.steps" :key="s">{{ s }}</li>
        </ol>
      </section>
      <section v-if="chosen.tubs" class="part">
        <h3>Out of leftovers, without new gel</h3>
        <p>
          {{ chosen.tubs.saves }}: {{ chosen.tubs.off }}
          <span class="pat" :style="{ background: chosen.tubs.hex }" aria-hidden="true"></span>
        </p>
        <div class="mix">
          <span v-for="u in chosen.tubs.use" :key="u.name" class="row">
            <span class="pat" :style="{ background: u.swatch }" aria-hidden="true"></span>
            <span class="big">{{ u.grams.text }}</span>
            <span class="small"
              >{{ u.name }} <WhyNumber :why="u.grams.why" :of="`${u.name}: ${u.grams.text}`" /><br /><span
                class="quiet"
                >{{ u.note }}</span
              ></span
            >
          </span>
        </div>
        <p v-if="chosen.tubs.short" class="soon small">{{ chosen.tubs.short }}</p>
        <p class="small quiet">Try a thumb's worth first: {{ chosen.tubs.try.join(', ') }}.</p>
        <Button
          :label="chosen.tubs.chosen ? 'In use' : 'Use the leftovers'"
          size="small"
          severity="secondary"
          outlined
          :disabled="chosen.tubs.chosen"
          @click="set('leftovers')"
        />
      </section>
      <section v-if="chosen.letDown.length" class="part">
        <h3>Or let a darker mix down</h3>
        <p v-for="d in chosen.letDown" :key="d.from" class="row">
          <span class="pat" :style="{ background: d.hex }" aria-hidden="true"></span>
          <span
            ><b>{{ d.dark.text }}</b> of {{ d.from }} and <b>{{ d.white.text }}</b> of {{ chosen.base }}
            <WhyNumber :why="d.dark.why" :of="`${d.dark.text} of ${d.from}`"
          /></span>
          <span class="quiet small">{{ d.off }}</span>
        </p>
      </section>
      <p v-for="m in chosen.matches" :key="m" class="small">{{ m }}</p>
      <section v-if="chosen.others.length" class="part">
        <h3>Other gels for it</h3>
        <div v-for="o in chosen.others" :key="o.key" class="other">
          <RecipeLines :recipe="o" :base="chosen.base" :total="chosen.total" />
          <Button label="Use these" size="small" severity="secondary" outlined @click="set('gels', o.key)" />
        </div>
      </section>
      <ColourTarget :key="'t' + chosen.key" :colour="chosen" :named="found.data.value.named" />
      <ColourTools :key="'f' + chosen.key" :colour="chosen" :commission="commission.id" />
    </section>
  </div>
</template>

<style scoped>
.none {
  padding: 24px;
}
.frame {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  gap: 20px;
  align-items: start;
}
.side {
  padding: 6px;
}
.one {
  display: flex;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: 54px;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  border-radius: 6px;
  padding: 8px 10px;
  text-align: left;
  cursor: pointer;
}
.one.on {
  background: var(--sage-light);
}
.dab {
  width: 34px;
  height: 26px;
  border-radius: 50%;
  border: 1px solid color-mix(in srgb, var(--ink) 30%, transparent);
  flex: none;
}
.board {
  padding: 12px 16px;
}
.board h2 {
  font-size: 17px;
}
.board p {
  margin: 2px 0;
}
.board h3 {
  font-size: 15px;
  margin: 12px 0 4px;
}
.pats {
  list-style: none;
  padding: 0;
  margin: 6px 0 10px;
}
.pats li {
  display: flex;
  gap: 8px;
  align-items: center;
  margin: 4px 0;
  line-height: 1.25;
}
.work {
  padding: 18px 24px 22px;
  min-width: 0;
}
.part {
  border-top: 1px solid var(--linen);
  margin-top: 16px;
  padding-top: 12px;
}
.ways {
  margin-top: 12px;
}
.mix {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 26px;
}
.mix .big {
  font-size: 26px;
}
.other {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
  justify-content: space-between;
  border-bottom: 1px solid var(--linen);
  padding: 8px 0;
}
@media (max-width: 900px) {
  .frame {
    grid-template-columns: minmax(0, 1fr);
  }
  .frame > aside {
    display: contents;
  }
  .board {
    order: 2;
  }
  .work {
    padding: 14px;
  }
}
</style>
