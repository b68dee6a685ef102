<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, Refused, take } from '../api/client'
import { useAct, useStudio, useWay, useWays } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import RowForm from '../parts/RowForm.vue'
import { offerUndo } from '../parts/undo'

// Ways of making, each a page that can be read: what is done step after step, with its minutes, its words and the
// reasons of those who do it otherwise. Ours are read; a copy is the studio's own, and is changed here.
const studio = useStudio()
const route = useRoute()
const router = useRouter()
const list = useWays()
const key = computed(() => String(route.params.key || list.data.value?.[0]?.key || ''))
const read = useWay(key)
const way = computed(() => read.data.value)
const naming = ref(false)
const name = ref('')
const fault = ref('')
watch(key, () => ((naming.value = false), (fault.value = '')))
const copy = useAct((s, as: string) =>
  take(
    api.POST('/s/{studio}/ways/{key}/copy', { params: { path: { studio: s, key: key.value } }, body: { name: as } }),
  ),
)
const remove = useAct((s, x: { id: number; back: boolean }) => {
  const params = { params: { path: { studio: s, kind: 'ways' as const, id: x.id } } }
  return take(
    x.back
      ? api.POST('/s/{studio}/rows/{kind}/{id}/restore', params)
      : api.POST('/s/{studio}/rows/{kind}/{id}/remove', params),
  )
})
async function own() {
  fault.value = ''
  try {
    const { key: made } = await copy.mutateAsync(name.value)
    naming.value = false
    name.value = ''
    void router.push(`/s/${studio.value}/ways/${made}`)
  } catch (err) {
    fault.value = err instanceof Error ? err.message : 'It was not copied.'
  }
}
async function away() {
  const w = way.value
  if (!w) return
  fault.value = ''
  try {
    await remove.mutateAsync({ id: w.id, back: false })
    offerUndo(`${w.name}: taken away.`, () => void remove.mutateAsync({ id: w.id, back: true }))
    void router.push(`/s/${studio.value}/ways`)
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'That was not done.'
  }
}
</script>

<template>
  <div class="stack">
    <header class="row">
      <h1>Ways of making</h1>
      <RouterLink :to="`/s/${studio}/drawer`" class="right">To the tool drawer</RouterLink>
    </header>
    <LoadState :error="list.error.value" :loading="list.isPending.value" @again="list.refetch()" />
    <div class="two">
      <nav aria-label="Ways of making">
        <RouterLink
          v-for="w in list.data.value ?? []"
          :key="w.key"
          :to="`/s/${studio}/ways/${w.key}`"
          class="item"
          :class="{ on: w.key === key }"
          :aria-current="w.key === key ? 'page' : undefined"
        >
          {{ w.name }} <span v-if="w.own" class="quiet small">our own</span>
        </RouterLink>
      </nav>
      <article v-if="way" class="stack">
        <section class="flour head">
          <header class="row">
            <h2>{{ way.name }}</h2>
            <span class="quiet small"
              >version {{ way.version }}<template v-if="way.from">, from {{ way.from }}</template></span
            >
            <span class="right row">
              <Button
                v-if="!naming"
                label="Make it our own"
                severity="secondary"
                outlined
                @click="((naming = true), (name = `Our ${way.name.toLowerCase()}`))"
              />
              <Button v-if="way.own" label="Take it away" severity="secondary" outlined @click="away" />
            </span>
          </header>
          <form v-if="naming" class="row" @submit.prevent="own">
            <label for="own-name">Called here</label>
            <InputText id="own-name" v-model="name" autocomplete="off" />
            <Button type="submit" label="Copy it" :loading="copy.isPending.value" />
            <Button type="button" label="Leave it" severity="secondary" outlined @click="naming = false" />
          </form>
          <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
          <p>{{ way.about }}</p>
          <p class="quiet small">
            The pace is set by: {{ way.limit }}. {{ way.breakage }}. It goes on {{ way.joins.join(', ') }}.
            <template v-if="way.tools.length">With: {{ way.tools.join(', ') }}.</template>
          </p>
        </section>
        <ol class="chain" aria-label="Step by step">
          <li v-for="s in way.steps" :key="s.id" :class="s.hands ? 'hands' : 'wait'">
            <header class="row">
              <h3>{{ s.say }}</h3>
              <span class="quiet small">{{ s.hands ? 'hands' : 'a wait' }}</span>
            </header>
            <p v-for="x in s.says" :key="x">{{ x }}</p>
            <p v-if="s.checks.length" class="quiet">Look for: {{ s.checks.join('; ') }}.</p>
            <p v-for="x in s.cautions" :key="x" class="soon small">{{ x }}</p>
            <ul class="minutes">
              <li v-for="m in s.minutes" :key="m.name">
                <span class="quiet">{{ m.name }}</span> <code>{{ m.text }}</code>
              </li>
              <li v-if="s.when" class="quiet small">
                only when <code>{{ s.when }}</code>
              </li>
              <li v-if="s.round" class="quiet small">round by round: {{ s.round }}</li>
              <li class="quiet small">{{ s.source }}</li>
            </ul>
          </li>
        </ol>
        <section v-if="way.measures.length" class="flour head">
          <h3>What is measured</h3>
          <p v-for="m in way.measures" :key="m.name">
            {{ m.name }} <span class="quiet small">{{ m.text }}</span>
          </p>
        </section>
        <section v-if="way.ways.length" class="flour head">
          <h3>Where good makers differ</h3>
          <div v-for="q in way.ways" :key="q.question">
            <p>
              <b>{{ q.asks }}</b> <span class="quiet small">at: {{ q.at }}</span>
            </p>
            <ul>
              <li v-for="o in q.options" :key="o.option">
                {{ o.say }} <span class="quiet small">{{ o.why }}<template v-if="o.usual">; as usual</template></span>
              </li>
            </ul>
          </div>
        </section>
        <RowForm v-if="way.own" :id="way.id" :key="way.id" kind="ways" :version="way.row" :fields="way.fields" />
      </article>
      <LoadState v-else :error="read.error.value" :loading="read.isPending.value" @again="read.refetch()" />
    </div>
  </div>
</template>

<style scoped>
.right {
  margin-left: auto;
}
.two {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  gap: 22px;
  align-items: start;
}
nav {
  display: grid;
  gap: 2px;
}
.item {
  padding: 10px 12px;
  border-radius: 10px;
  color: var(--ink);
  text-decoration: none;
}
.item.on {
  background: var(--sage-light);
  font-weight: 650;
}
.head {
  padding: 14px 22px;
}
.head p,
.head h2,
.head h3 {
  margin: 4px 0;
}
.chain {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0;
}
.chain > li {
  margin-left: 12px;
  padding: 8px 20px 14px;
  border-left: 4px solid var(--fern);
}
.chain > li.wait {
  border-left: 4px dotted var(--quiet);
}
.chain h3,
.chain p {
  margin: 2px 0;
}
.minutes {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
}
code {
  font-size: 13px;
  overflow-wrap: anywhere;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  nav {
    display: flex;
    overflow-x: auto;
  }
  .item {
    flex: none;
  }
}
</style>
