<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, Refused, sendFile, take, type CommissionView, type StopView } from '../api/client'
import { useClientKnows, useCountIn, useLeaving } from '../api/ending'
import { cache, useAct, useStudio } from '../api/queries'
import KeptInput from '../parts/KeptInput.vue'
import FieldInput from '../parts/FieldInput.vue'
import FilePick from '../parts/FilePick.vue'
import LoadState from '../parts/LoadState.vue'
import { useSaving } from '../parts/saving'

const props = defineProps<{ commission: CommissionView }>()
const studio = useStudio()
const found = useLeaving(() => props.commission.id)
const card = computed(() => found.data.value?.card)
const saving = useSaving(() => ({ kind: 'commissions', id: props.commission.id, version: props.commission.version }))
const count = useCountIn()
const knows = useClientKnows()
const fault = ref('')
const writes = ref('')
const text = ref('')
async function tried(what: () => Promise<unknown>) {
  fault.value = ''
  try {
    await what()
    return true
  } catch (err) {
    fault.value =
      err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not saved: try again.'
    return false
  }
}
function counted(item: string, typed: string) {
  const n = typed.trim() === '' ? undefined : Number(typed)
  if (n !== undefined && !Number.isInteger(n)) {
    fault.value = 'Write how many were counted, as a whole number.'
    return
  }
  void tried(() => count.mutateAsync({ id: props.commission.id, item, counted: n }))
}
const key = (s: StopView) => s.code + s.because
async function clear(s: StopView, says: string) {
  if (await tried(() => knows.mutateAsync({ id: props.commission.id, code: s.code, because: s.because, says }))) {
    writes.value = ''
    text.value = ''
  }
}
const give = useAct((slug, anyway: boolean) =>
  take(
    api.POST('/s/{studio}/commissions/{id}/state/{state}', {
      params: { path: { studio: slug, id: props.commission.id, state: 'handedOver' }, query: { anyway } },
    }),
  ),
)
const asks = ref('')
async function handOver(anyway: boolean) {
  asks.value = ''
  fault.value = ''
  try {
    await give.mutateAsync(anyway)
  } catch (err) {
    const f = err instanceof Refused ? err.problem.fields[0] : undefined
    if (f?.field === 'anyway') asks.value = f.detail
    else fault.value = f?.detail ?? (err instanceof Error ? err.message : 'It was not saved.')
  }
}
const photograph = (file: File) =>
  tried(async () => {
    await sendFile(`/s/${studio.value}/commissions/${props.commission.id}/finished`, file)
    await cache.invalidateQueries()
  })
</script>

<template>
  <div>
    <LoadState :error="found.error.value" :loading="found.isPending.value" @again="found.refetch()" />
    <div v-if="card" class="leaving">
      <article class="flour card" aria-label="The card">
        <h2>{{ card.title }}</h2>
        <p class="quiet">
          <template v-if="card.when">for {{ card.when }}</template
          ><template v-else>no hand-over date yet</template>
        </p>
        <ul v-if="card.remove.length" class="remove" aria-label="To take out before serving">
          <li v-for="r in card.remove" :key="r.item">
            <b>Take out before serving: {{ r.says }}</b> <span>{{ r.where.join(', ') }}</span>
          </li>
        </ul>
        <dl>
          <div v-for="(l, i) in card.lines" :key="l.code + i" :class="l.level">
            <dt>{{ l.head }}</dt>
            <dd>{{ l.says }}</dd>
          </div>
        </dl>
        <p v-if="card.lines.length" class="links">
          <a :href="`/api/s/${studio}/card/${commission.id}/a6`" target="_blank">Card on A6 (PDF)</a>
          <a :href="`/api/s/${studio}/card/${commission.id}/a4`" target="_blank">on A4 (PDF)</a>
        </p>
      </article>
      <section class="flour side" aria-label="Before it goes">
        <h2>{{ card.handed ? 'It is handed over' : card.ready ? 'Ready to go' : 'Before it goes' }}</h2>
        <ul v-if="card.missing.length" class="missing">
          <li v-for="m in card.missing" :key="m">{{ m }}</li>
        </ul>
        <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
        <section v-for="s in card.stops" :key="key(s)" class="stop" :class="{ cleared: s.cleared }">
          <p>
            <b>{{ s.says }}</b>
          </p>
          <p class="quiet small">Because of {{ s.by }}. {{ s.wayOn }}</p>
          <template v-if="s.cleared">
            <p>The client knows: {{ s.cleared }}</p>
            <button type="button" class="link" @click="clear(s, '')">let it stand again</button>
          </template>
          <form v-else-if="writes === key(s)" class="rowline plain" @submit.prevent="clear(s, text)">
            <label
              >What was written, by whom, when
              <input v-model="text" maxlength="500" placeholder="letter of 20 Nov: we know" />
            </label>
            <Button type="submit" severity="secondary" label="The client knows, in writing" :disabled="!text.trim()" />
          </form>
          <button v-else type="button" class="link" @click="writes = key(s)">The client knows, in writing</button>
        </section>
        <section v-if="card.counts.length" aria-label="Counted at the bench">
          <h3>Counted at the bench</h3>
          <p v-for="c in card.counts" :key="c.item" class="count plain" :class="{ danger: c.differs }">
            <label
              ><span>{{ c.says }} listed, counted</span>
              <KeptInput
                :value="c.counted < 0 ? '' : c.counted"
                inputmode="numeric"
                size="4"
                :aria-label="`${c.item} counted`"
                @change="(typed) => counted(c.item, typed)"
            /></label>
          </p>
        </section>
        <section v-if="card.pieces.length" aria-label="The pieces">
          <h3>The pieces</h3>
          <p v-for="p in card.pieces" :key="p.id">
            <i class="dot" :style="{ background: p.swatch }" aria-hidden="true" /> <b>{{ p.name }}</b>: {{ p.says }}
          </p>
        </section>
        <div class="rowline plain">
          <FieldInput
            v-for="f in card.fields"
            :key="f.name"
            :field="f"
            :error="saving.errors[f.name]"
            @save="(t) => saving.save({ [f.name]: t })"
          />
        </div>
        <section v-if="card.warns.length" aria-label="For the maker">
          <h3>For the maker</h3>
          <p v-for="x in card.warns" :key="x" class="soon">{{ x }}</p>
        </section>
        <section aria-label="The finished work">
          <h3>The finished work</h3>
          <div class="photos">
            <img
              v-for="p in card.photos"
              :key="p.photo"
              :src="`/api/s/${studio}/photos/${p.photo}`"
              :alt="`${card.title}, ${p.when}`"
            />
          </div>
          <FilePick
            label="Photograph it"
            accept="image/*"
            hint="Last: brush off, count, photograph"
            @file="photograph"
          />
        </section>
        <p v-if="asks" role="alert">
          {{ asks }} <Button severity="secondary" label="Hand it over all the same" @click="handOver(true)" />
        </p>
        <Button
          v-if="!card.handed && card.pieces.length"
          label="Hand it over"
          :disabled="!card.ready"
          @click="handOver(false)"
        />
      </section>
    </div>
  </div>
</template>

<style scoped>
.leaving {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px;
  align-items: start;
}
.card,
.side {
  padding: 18px 24px;
}
.remove {
  list-style: none;
  padding: 0;
}
.remove li,
.card .warn {
  border: 2px solid var(--honey);
  border-radius: 6px;
  padding: 8px 12px;
  margin: 8px 0;
}
dl {
  margin: 8px 0;
}
dl > div {
  padding: 6px 0;
  border-top: 1px solid var(--linen);
}
dt {
  font-weight: 650;
}
dd {
  margin: 0;
}
.links {
  display: flex;
  gap: 18px;
}
.links a {
  padding: 12px 0;
}
.missing {
  padding-left: 20px;
}
.stop {
  border-left: 4px solid var(--rosehip);
  background: var(--honey-fill);
  padding: 8px 14px;
  margin: 8px 0;
  border-radius: 0 8px 8px 0;
}
.stop.cleared {
  border-left-color: var(--moss);
  background: none;
}
.stop .quiet {
  color: var(--ink);
}
.stop p {
  margin: 2px 0;
}
.stop .link {
  min-height: 44px;
}
.count label {
  display: flex;
  gap: 10px;
  align-items: center;
}
.dot {
  display: inline-block;
  width: 14px;
  height: 14px;
  border: 1px solid var(--linen);
  border-radius: 50%;
}
.photos {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.photos img {
  width: 130px;
  height: 100px;
  object-fit: cover;
  border-radius: 6px;
}
@media (max-width: 900px) {
  .leaving {
    grid-template-columns: minmax(0, 1fr);
  }
  .card,
  .side {
    padding: 14px;
  }
}
</style>
