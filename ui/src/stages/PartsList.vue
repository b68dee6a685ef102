<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, reactive, ref } from 'vue'
import { api, Refused, take, type CommissionView, type PieceView } from '../api/client'
import { useAct } from '../api/queries'

// What a piece is made of beside itself: parts that go on to it, in order. A piece of one part shows none.
const props = defineProps<{ commission: CommissionView; piece: PieceView }>()
const emit = defineEmits<{ choose: [id: number] }>()
const open = ref(-2) // -2: nothing, -1: a new one, else the place that is changed
const blank = { part: 0, name: '', each: '1', says: '', with: '', minutes: '0.5 min' }
const form = reactive({ ...blank })
const fault = reactive({ field: '', says: '' })
const choices = computed(() => [
  { id: 0, name: 'a new piece' },
  ...props.commission.pieces.filter((p) => p.id !== props.piece.id),
])
const save = useAct((s, at: number) =>
  take(
    api.POST('/s/{studio}/pieces/{id}/parts/{at}', {
      params: { path: { studio: s, id: props.piece.id, at } },
      body: { ...form },
    }),
  ),
)
const off = useAct((s, at: number) =>
  take(api.POST('/s/{studio}/pieces/{id}/parts/{at}/off', { params: { path: { studio: s, id: props.piece.id, at } } })),
)
function add() {
  Object.assign(form, blank)
  fault.says = fault.field = ''
  open.value = -1
}
function change(i: number) {
  const p = props.piece.parts[i]
  if (!p) return
  Object.assign(form, {
    part: p.part,
    name: '',
    each: String(p.each),
    says: p.says,
    with: p.with,
    minutes: p.minutes,
  })
  fault.says = fault.field = ''
  open.value = i
}
async function keep() {
  fault.says = fault.field = ''
  try {
    await save.mutateAsync(open.value)
    open.value = -2
  } catch (err) {
    const f = err instanceof Refused ? err.problem.fields[0] : undefined
    fault.field = f?.field ?? ''
    fault.says = f?.detail ?? (err instanceof Error ? err.message : 'It was not saved.')
  }
}
</script>

<template>
  <section class="flour parts" aria-label="Made of">
    <header class="row">
      <h3>Made of</h3>
      <Button label="Add a part" size="small" severity="secondary" outlined class="right" @click="add" />
    </header>
    <p v-if="piece.partOf.length" class="quiet">
      A part: {{ piece.partOf.join('; ') }}. {{ piece.needed }} are needed<template v-if="piece.wanted">
        , {{ piece.wanted }} of them by themselves</template
      >.
    </p>
    <p v-if="!piece.parts.length && open === -2" class="quiet small">One part: the piece itself.</p>
    <ol>
      <li v-for="(p, i) in piece.parts" :key="i">
        <span class="pat" :style="{ background: p.swatch }" aria-hidden="true"></span>
        <span class="grow"
          ><button type="button" class="link" @click="emit('choose', p.part)">{{ p.name }}</button>
          <b>{{ p.each }}</b> on to each, {{ p.total }} in all<template v-if="p.state">, {{ p.state }}</template>
          <span v-if="p.with || p.says" class="quiet small"
            ><br />{{ [p.says, p.with && `with ${p.with}`].filter(Boolean).join(', ') }}</span
          ></span
        >
        <Button label="Change" size="small" severity="secondary" text @click="change(i)" />
        <Button label="Take it off" size="small" severity="secondary" text @click="off.mutate(i)" />
      </li>
    </ol>
    <form v-if="open > -2" class="form" @submit.prevent="keep">
      <div>
        <label for="part-piece">Part</label>
        <Select
          v-model="form.part"
          input-id="part-piece"
          :options="choices"
          option-label="name"
          option-value="id"
          aria-label="Part"
          fluid
        />
      </div>
      <div v-if="form.part === 0">
        <label for="part-name">Called</label>
        <InputText id="part-name" v-model="form.name" autocomplete="off" fluid :invalid="fault.field === 'name'" />
      </div>
      <div>
        <label for="part-each">On to each</label>
        <InputText id="part-each" v-model="form.each" autocomplete="off" fluid :invalid="fault.field === 'each'" />
      </div>
      <div>
        <label for="part-says">Where and how</label>
        <InputText id="part-says" v-model="form.says" autocomplete="off" fluid />
      </div>
      <div>
        <label for="part-with">Held by</label>
        <InputText id="part-with" v-model="form.with" autocomplete="off" fluid placeholder="royal icing, water" />
      </div>
      <div>
        <label for="part-minutes">Hands for one</label>
        <InputText
          id="part-minutes"
          v-model="form.minutes"
          autocomplete="off"
          fluid
          :invalid="fault.field === 'minutes'"
        />
      </div>
      <p v-if="fault.says" class="danger wide" role="alert">{{ fault.says }}</p>
      <div class="row wide">
        <Button type="submit" :label="open < 0 ? 'Put it on' : 'Keep it so'" :loading="save.isPending.value" />
        <Button type="button" label="Leave it" severity="secondary" outlined @click="open = -2" />
      </div>
    </form>
  </section>
</template>

<style scoped>
.parts {
  padding: 12px 20px;
}
h3,
.parts p {
  margin: 0;
}
.right {
  margin-left: auto;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 6px 0;
}
.grow {
  flex: 1;
}
.link {
  margin-right: 8px;
  font: inherit;
  color: var(--fern);
  background: none;
  border: 0;
  min-height: 44px;
  padding: 0;
  text-decoration: underline;
  cursor: pointer;
}
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px 18px;
  margin-top: 10px;
}
.wide {
  grid-column: 1 / -1;
}
</style>
