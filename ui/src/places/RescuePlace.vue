<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute, useRouter, type LocationQueryValue } from 'vue-router'
import { Refused } from '../api/client'
import { useConfirm, useRescue, useTake, type Asked } from '../api/ending'
import { useStudio } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import WhyNumber from '../parts/WhyNumber.vue'
import SymptomPicture from '../pictures/SymptomPicture.vue'

// What is known so far stands in the address: going back takes back one press, and another window can be sent it.
const route = useRoute()
const router = useRouter()
const studio = useStudio()
const list = (v: LocationQueryValue | LocationQueryValue[] | undefined) =>
  (Array.isArray(v) ? v : [v]).filter((x): x is string => !!x)
const asked = computed<Asked>(() => ({
  op: list(route.query.op)[0] ?? '',
  technique: list(route.query.technique)[0] ?? '',
  seen: list(route.query.seen),
  absent: list(route.query.absent),
  answers: list(route.query.answers),
}))
const found = useRescue(asked)
const v = computed(() => found.data.value)
const find = ref('')
const shown = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/).filter(Boolean)
  const rows = v.value?.symptoms ?? []
  if (words.length) return rows.filter((s) => words.every((w) => `${s.says} ${s.look}`.toLowerCase().includes(w)))
  return rows
})
function go(set: Partial<Asked>) {
  const next = { ...asked.value, ...set }
  said.value = ''
  void router.push({
    path: route.path,
    query: {
      op: next.op || undefined,
      technique: next.technique || undefined,
      seen: next.seen.length ? next.seen : undefined,
      absent: next.absent.length ? next.absent : undefined,
      answers: next.answers.length ? next.answers : undefined,
    },
  })
}
const toggle = (code: string) =>
  go({
    seen: asked.value.seen.includes(code) ? asked.value.seen.filter((s) => s !== code) : [...asked.value.seen, code],
    absent: asked.value.absent.filter((s) => s !== code),
  })
const answer = (code: string, yes: boolean) =>
  go({ answers: [...asked.value.answers.filter((a) => !a.startsWith(code + ':')), `${code}:${yes ? 'yes' : 'no'}`] })
const unanswer = (code: string) => go({ answers: asked.value.answers.filter((a) => !a.startsWith(code + ':')) })
const confirm = useConfirm()
const taking = useTake()
const said = ref('')
const fault = ref('')
const done = ref<string[]>([])
async function tried(what: () => Promise<string>) {
  fault.value = ''
  try {
    said.value = await what()
  } catch (err) {
    fault.value =
      err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not kept: try again.'
  }
}
const itWas = (cause: string) =>
  tried(async () => {
    await confirm.mutateAsync({ cause, asked: asked.value })
    done.value.push('was ' + cause)
    return 'Written down: it counts from now on.'
  })
const change = (cause: string, at: number) =>
  tried(async () => {
    const t = await taking.mutateAsync({ cause, at, asked: asked.value })
    done.value.push(`${cause} ${at}`)
    return t.says
  })
</script>

<template>
  <div>
    <header class="head">
      <h1>Rescue</h1>
      <p v-if="v?.about.name">
        <b>{{ v.about.name }}</b><template v-if="v.about.made">, {{ v.about.made }}</template
        ><template v-if="v.about.step"> · at {{ v.about.step }}</template>
        <RouterLink :to="`/s/${studio}/bench`">To the bench</RouterLink>
        <button v-if="asked.op" type="button" class="link" @click="go({ op: '', seen: [], absent: [], answers: [] })">
          something else
        </button>
      </p>
      <p v-else class="quiet">What is seen? What the batch knows of itself is read by itself.</p>
    </header>
    <LoadState :error="found.error.value" :loading="found.isPending.value" @again="found.refetch()" />
    <div v-if="v" class="both">
      <section class="flour seen plain" aria-label="What is seen">
        <template v-if="!asked.op">
          <p v-if="v.batches.length" class="begin">
            Of:
            <button v-for="b in v.batches" :key="b.op" type="button" class="chip" @click="go({ op: b.op })">
              {{ b.says }}
            </button>
          </p>
          <label v-if="v.techniques.length || asked.technique" class="made"
            >or made as
            <select :value="asked.technique" @change="(e) => go({ technique: (e.target as HTMLSelectElement).value })">
              <option value="">any way</option>
              <option v-if="asked.technique && !v.techniques.length" :value="asked.technique">
                {{ asked.technique }}
              </option>
              <option v-for="t in v.techniques" :key="t.code" :value="t.code">{{ t.say }}</option>
            </select></label
          >
        </template>
        <h2>What is seen?</h2>
        <input v-model="find" type="search" placeholder="find: cracks, sticks, slides" aria-label="Find what is seen" />
        <ul class="symptoms">
          <li v-for="(s, i) in shown" :key="s.code" :class="{ rest: !s.likely && shown[i - 1]?.likely }">
            <button type="button" :aria-pressed="s.seen" :class="{ on: s.seen }" @click="toggle(s.code)">
              <SymptomPicture :code="s.code" />
              <span
                ><b>{{ s.says }}</b
                ><br /><span class="quiet small">look at: {{ s.look }}</span></span
              >
            </button>
          </li>
        </ul>
        <p v-if="!shown.length" class="quiet">Nothing is called so. Try another word, or take the nearest.</p>
      </section>
      <section class="flour why" :class="{ found: v.causes.length }" aria-label="What it may be">
        <template v-if="!v.causes.length">
          <h2>What it may be</h2>
          <p class="quiet">Press what you see; the likely causes stand here, with what to do now.</p>
          <template v-if="v.confirmed.length">
            <h3>Found lately</h3>
            <p v-for="c in v.confirmed" :key="c.when + c.name">
              {{ c.when }}, {{ c.name }}: <b>{{ c.says }}</b>
            </p>
          </template>
        </template>
        <p v-if="v.apart" class="soon">No one cause explains all of it: ask for each alone.</p>
        <p v-if="v.batchWide" class="soon">{{ v.batchWide }}</p>
        <section v-if="v.ask" class="ask" aria-label="One question">
          <p>
            <b>{{ v.ask.says }}</b>
            <span class="quiet small takes"
              >{{ v.ask.takes }}<template v-if="v.ask.spoils">, it costs a piece</template></span
            >
          </p>
          <Button label="Yes" @click="answer(v.ask.code, true)" />
          <Button label="No" severity="secondary" @click="answer(v.ask.code, false)" />
          <span v-if="v.ask.decides" class="quiet small">yes: {{ v.ask.ifYes }} · no: {{ v.ask.ifNo }}</span>
        </section>
        <article v-for="(c, i) in v.causes" :key="c.code" class="cause" :class="{ first: i === 0 }">
          <h3>
            {{ c.says }} <span class="how">{{ c.how }}</span>
            <WhyNumber :why="c.why" :of="c.says" />
          </h3>
          <p><b>Now:</b> {{ c.now }}.</p>
          <p><b>Next time:</b> {{ c.next }}.</p>
          <p class="quiet small">{{ c.harm }}, {{ c.check }}</p>
          <p class="acts">
            <button
              v-for="ch in c.changes"
              :key="ch.at"
              type="button"
              class="chip"
              :disabled="done.includes(`${c.code} ${ch.at}`)"
              @click="change(c.code, ch.at)"
            >
              {{ ch.does }} {{ ch.where }}: {{ ch.says }}
            </button>
            <button type="button" class="chip strong" :disabled="done.includes('was ' + c.code)" @click="itWas(c.code)">
              That was it
            </button>
          </p>
        </article>
        <p v-if="said" role="status">
          <b>{{ said }}</b>
        </p>
        <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
        <p v-if="v.causes.length" class="quiet small">
          Usual patterns, not measured; what you confirm counts in their place.
        </p>
        <details v-if="v.facts.length">
          <summary>What counted</summary>
          <ul>
            <li v-for="f in v.facts" :key="f.code">
              {{ f.says }} <b>{{ f.value ? 'yes' : 'no' }}</b>
              <span class="quiet small">{{ f.from === 'record' ? 'from the batch' : 'you said so' }}</span>
              <button v-if="f.from === 'answer'" type="button" class="link" @click="unanswer(f.code)">take back</button>
              <button v-else type="button" class="link" @click="answer(f.code, !f.value)">it was otherwise</button>
            </li>
          </ul>
        </details>
        <ul v-if="v.causes.length && v.cautions.length" class="cautions" aria-label="Cautions">
          <li v-for="c in v.cautions" :key="c" class="small">{{ c }}</li>
        </ul>
      </section>
    </div>
  </div>
</template>

<style scoped>
.seen h2 {
  margin: 14px 0 6px;
}
.head p {
  margin: 4px 0 12px;
}
.head a,
.head .link {
  margin-left: 12px;
}
.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 20px;
  align-items: start;
}
.seen,
.why {
  padding: 14px 20px;
}
.symptoms {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
.symptoms .rest {
  border-top: 3px double var(--moss);
}
.symptoms {
  max-height: 70vh;
  overflow-y: auto;
}
.symptoms button {
  display: flex;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: 56px;
  padding: 5px 8px;
  border: 1px solid transparent;
  border-bottom-color: var(--linen);
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: left;
}
.symptoms button.on {
  border: 2px solid var(--fern);
  border-radius: 8px;
}
.begin {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.seen input,
.seen select {
  width: 100%;
}
.made {
  display: grid;
  gap: 4px;
  margin-bottom: 8px;
}
.chip {
  min-height: 44px;
  padding: 6px 12px;
  border: 1px solid var(--moss);
  border-radius: 6px;
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: left;
}
.chip.strong {
  font-weight: 650;
}
.chip:disabled {
  opacity: 0.55;
}
.ask {
  background: var(--dusk-fill);
  border-radius: 8px;
  padding: 10px 16px;
  margin-bottom: 10px;
}
.ask p {
  margin: 0 0 8px;
}
.ask > * + * {
  margin-right: 8px;
}
.cause {
  border-top: 1px solid var(--linen);
  padding: 8px 0;
}
.cause p {
  margin: 3px 0;
}
.cause.first h3 {
  font-size: 22px;
}
.how {
  font-family: 'Figtree Variable', Figtree, sans-serif;
  font-size: 14px;
  padding: 2px 8px;
  border-radius: 6px;
  background: var(--honey-fill);
}
.ask b {
  margin-right: 10px;
}
.ask .quiet,
.how {
  color: var(--ink);
}
.takes {
  white-space: nowrap;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.cautions {
  list-style: none;
  padding: 0;
}
.cautions li {
  padding: 6px 10px;
  border-left: 3px solid var(--honey);
  background: var(--honey-fill);
  margin: 4px 0;
}
details summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  font-weight: 600;
}
@media (max-width: 900px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
  .why.found {
    order: -1;
  }
}
</style>
