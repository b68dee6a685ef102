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
// how a step is done, and what to mind, stand at the first step of which it is said
const firstTold = computed(() => {
  const told = new Set<string>()
  const fresh = (c: string) => !told.has(c) && !!told.add(c)
  return Object.fromEntries(
    (v.value?.evening ?? []).map((s) => [
      s.op,
      { how: fresh([...s.says, ...s.checks].join(' ')), cautions: s.cautions.filter(fresh) },
    ]),
  )
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
      <section v-if="v.layOut.length" class="layout">
        <h2>Lay out first</h2>
        <ul>
          <li v-for="x in v.layOut" :key="x">
            <span class="box small" role="img" aria-label="box to tick"></span>{{ x }}
          </li>
        </ul>
      </section>
      <div class="flow">
        <ol class="steps">
          <li v-for="s in v.evening" :key="s.op">
            <span class="box" role="img" aria-label="box to tick"></span>
            <div class="body">
              <h2>
                {{ s.title }} <span class="quiet of">{{ s.commission }}</span>
              </h2>
              <p v-if="s.figures.length" class="figures">
                <span v-for="(f, i) in s.figures" :key="f.unit + i"
                  ><b>{{ f.text }}</b> {{ f.unit }}</span
                >
              </p>
              <template v-if="firstTold[s.op]!.how">
                <p>{{ s.says.join(' ') }}</p>
                <p v-if="s.checks.length" class="quiet">Look for: {{ s.checks.join('; ') }}.</p>
              </template>
              <p v-else class="quiet">As before.</p>
              <p v-if="firstTold[s.op]!.cautions.length" class="caution">{{ firstTold[s.op]!.cautions.join(' ') }}</p>
            </div>
            <div class="time">
              <b>{{ s.startSays }}</b> <span>to {{ s.endSays }}</span> <b v-if="s.for">{{ s.for }}</b>
              <span class="quiet">{{ s.lengthSays }}</span>
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
      </div>
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
.layout {
  margin-top: 14px;
}
.layout ul {
  columns: 2;
  list-style: none;
  margin: 6px 0 12px;
  padding: 0;
}
.layout li {
  display: flex;
  gap: 10px;
  break-inside: avoid;
  padding: 3px 0;
}
.box.small {
  flex: none;
  width: 18px;
  height: 18px;
  margin-top: 2px;
}
.body p {
  margin: 3px 0;
}
h2 {
  font-size: 22px;
}
.of {
  font:
    400 15px 'Figtree Variable',
    sans-serif;
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
.figures span:nth-child(n + 3) b {
  font-size: 20px;
}
.caution {
  font-size: 14px;
  color: var(--honey);
}
.time {
  display: flex;
  flex-direction: column;
  text-align: right;
}
.rules {
  font-size: 14px;
  border-top: 1px solid var(--linen);
  padding-top: 10px;
}
@media print {
  /* an evening fits a page */
  .sheet {
    max-width: none;
    font-size: 9.5pt;
    line-height: 1.2;
  }
  h1 {
    font-size: 20pt;
  }
  .layout {
    margin-top: 0;
  }
  .layout ul {
    columns: 3;
    margin: 2px 0 6px;
  }
  .layout li {
    gap: 6px;
    padding: 1px 0;
  }
  .flow {
    columns: 2;
    column-gap: 22px;
  }
  .steps {
    margin: 0;
  }
  .steps li {
    grid-template-columns: 18px minmax(0, 1fr);
    gap: 2px 6px;
    padding: 4px 0;
  }
  .body {
    grid-column: 2;
    grid-row: 1;
  }
  .time {
    grid-column: 2;
    flex-direction: row;
    gap: 6px;
  }
  .body p {
    margin: 1px 0;
  }
  .box,
  .box.small {
    width: 14px;
    height: 14px;
    border-width: 1.5px;
  }
  h2 {
    font-size: 12pt;
  }
  .of {
    font-size: 9.5pt;
  }
  .figures {
    gap: 0 16px;
  }
  .figures b {
    font-size: 20pt;
    line-height: 1.05;
  }
  .figures span:nth-child(n + 3) b {
    font-size: 11pt;
  }
  .caution,
  .rules {
    font-size: 8.5pt;
  }
  .waits,
  .rules {
    margin: 2px 0;
  }
}
@media (max-width: 600px) {
  .layout ul {
    columns: 1;
  }
  .steps li {
    grid-template-columns: 30px minmax(0, 1fr);
  }
  .time {
    grid-column: 2;
    flex-direction: row;
    gap: 8px;
  }
}
</style>
