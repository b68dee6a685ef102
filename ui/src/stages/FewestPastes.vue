<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, Refused, take, type CommissionView } from '../api/client'
import { useAct, useTogether } from '../api/queries'
import WhyNumber from '../parts/WhyNumber.vue'

const props = defineProps<{ commission: CommissionView }>()
const found = useTogether(() => props.commission.id)
const t = computed(() => found.data.value)
const fault = ref('')
const act = useAct((studio) =>
  take(api.POST('/s/{studio}/commissions/{id}/together', { params: { path: { studio, id: props.commission.id } } })),
)
async function accept() {
  fault.value = ''
  try {
    await act.mutateAsync(undefined)
  } catch (err) {
    fault.value = err instanceof Refused ? err.message : 'It was not saved.'
  }
}
</script>

<template>
  <section v-if="t?.pastes.length" class="fewest">
    <h3>Fewer pastes for the whole commission</h3>
    <p>{{ t.says }} <WhyNumber :why="t.why" of="The fewest pastes" /></p>
    <ul>
      <li v-for="p in t.pastes" :key="p.text">
        <b>{{ p.name }}</b>, {{ p.text }}<template v-if="p.grams">, {{ p.grams }}</template
        >: <span class="quiet">{{ p.pieces.join(', ') }}</span>
      </li>
    </ul>
    <p v-for="m in t.moves" :key="m" class="small quiet">{{ m }}</p>
    <p v-for="l in t.leftOut" :key="l" class="small soon">{{ l }}</p>
    <p v-if="fault" class="danger small" role="alert">{{ fault }}</p>
    <Button v-if="t.fewer" label="Take these pastes" size="small" :loading="act.isPending.value" @click="accept" />
    <p v-else class="small quiet">It cannot be fewer than it is.</p>
  </section>
</template>

<style scoped>
.fewest {
  border-top: 1px solid var(--linen);
  margin-top: 18px;
  padding-top: 14px;
}
</style>
