<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useBench, useKitchen, useStudio } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import TroubleList from '../parts/TroubleList.vue'

const studio = useStudio()
const bench = useBench()
const kitchen = useKitchen()
const v = computed(() => bench.data.value)
// who eats stands at the head, an order once
const guests = computed(() => {
  const by = new Map((v.value?.evening ?? []).filter((s) => s.guests).map((s) => [s.commission, s.guests]))
  return [...by].map(([of, says]) => ({ of, says }))
})
const print = () => window.print()
</script>

<template>
  <div class="sheet">
    <LoadState :error="bench.error.value" :loading="bench.isPending.value" @again="bench.refetch()" />
    <template v-if="v">
      <header class="row">
        <h1>Bench sheet</h1>
        <span v-if="v.evening[0]">{{ v.evening[0].startSays }}, {{ kitchen.data.value?.name }}, {{ v.room }}</span>
        <Button class="noprint right" label="Print it" @click="print" />
        <RouterLink class="noprint" :to="`/s/${studio}/bench`">To the bench</RouterLink>
      </header>
      <p v-if="!v.evening.length">{{ v.nothing }}</p>
      <p v-for="g in guests" :key="g.of" class="guests">
        <b>{{ g.of }}</b> {{ g.says }}
      </p>
      <TroubleList :troubles="v.troubles" :open="20" />
      <ol class="steps">
        <li v-for="s in v.evening" :key="s.op">
          <span class="box" role="img" aria-label="box to tick"></span>
          <div class="body">
            <h2>{{ s.title }}</h2>
            <p class="quiet">{{ s.commission }}</p>
            <p v-if="s.figures.length" class="figures">
              <span v-for="(f, i) in s.figures" :key="f.unit + i"
                ><b>{{ f.text }}</b> {{ f.unit }}</span
              >
            </p>
            <p>{{ s.says.join(' ') }}</p>
            <p v-if="s.checks.length" class="quiet">Look for: {{ s.checks.join('; ') }}.</p>
            <p v-for="c in s.cautions" :key="c" class="caution">{{ c }}</p>
          </div>
          <div class="time">
            <b>{{ s.startSays }}</b><br />to {{ s.endSays }}<br /><span class="quiet">{{ s.lengthSays }}</span>
          </div>
        </li>
      </ol>
      <section v-if="v.waits.length">
        <h2>Then it waits</h2>
        <ul class="waits">
          <li v-for="x in v.waits" :key="x.op">
            <b>{{ x.title }}</b>: from {{ x.startSays }}, ready {{ x.endSays }}
          </li>
        </ul>
      </section>
      <ul class="rules">
        <li v-for="c in v.cautions" :key="c.code">{{ c.say }}</li>
        <li>Product labels and local food rules come first.</li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.sheet {
  max-width: 900px;
  font-size: 17px;
}
.right {
  margin-left: auto;
}
.steps {
  list-style: none;
  padding: 0;
}
.steps li {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) 150px;
  gap: 14px;
  border-top: 1px solid var(--linen);
  padding: 12px 0;
  break-inside: avoid;
}
.box {
  width: 28px;
  height: 28px;
  border: 2px solid var(--ink);
  border-radius: 4px;
}
.body p {
  margin: 3px 0;
}
h2 {
  font-size: 22px;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 26px;
}
.figures b {
  font-family: 'Fraunces Variable', serif;
  font-size: 28px;
}
.caution {
  font-size: 14px;
  color: var(--honey);
}
.time {
  text-align: right;
}
.rules {
  font-size: 14px;
  border-top: 1px solid var(--linen);
  padding-top: 10px;
}
@media (max-width: 600px) {
  .steps li {
    grid-template-columns: 30px minmax(0, 1fr);
  }
  .time {
    grid-column: 2;
    text-align: left;
  }
}
</style>
