<script setup lang="ts">
import type { BenchView, LineStep } from '../api/client'
import { computed } from 'vue'
import { useKitchen, useStudio } from '../api/queries'
import OfferRow from './OfferRow.vue'

// Nothing is due: before when, said small, and what could be done earlier, as an offer.
defineProps<{ bench: BenchView; fault?: string }>()
defineEmits<{ take: [step: LineStep] }>()
const studio = useStudio()
const kitchen = useKitchen()
// nobody has said any hours yet: it is a new studio
const fresh = computed(() => kitchen.data.value?.week.days.every((d) => !d.stretches.length))
</script>

<template>
  <section class="flour none" aria-live="polite">
    <h2>{{ bench.nothing }}</h2>
    <p v-if="fault" class="danger" role="alert">{{ fault }}</p>
    <template v-if="bench.offers.length">
      <p class="quiet">It could be done earlier:</p>
      <OfferRow v-for="o in bench.offers" :key="o.op" :step="o" @take="(s) => $emit('take', s)" />
    </template>
    <template v-if="bench.others.length">
      <p class="quiet">For other hands:</p>
      <OfferRow v-for="o in bench.others" :key="o.op" :step="o" @take="(s) => $emit('take', s)" />
    </template>
    <template v-if="bench.next.length">
      <p class="quiet">Then:</p>
      <p v-for="n in bench.next" :key="n.op" class="then">
        <span>{{ n.title }}</span> <span class="quiet">{{ n.startSays }}</span>
      </p>
    </template>
    <p v-if="!bench.before" class="row">
      <RouterLink v-if="fresh" :to="`/s/${studio}/first`">Begin with three questions</RouterLink>
      <RouterLink :to="`/s/${studio}/commissions`">To the commissions</RouterLink>
    </p>
  </section>
</template>

<style scoped>
.none {
  padding: 18px 24px 20px;
  align-self: start;
}
h2 {
  margin: 0 0 10px;
  font-size: 24px;
}
.then {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  border-top: 1px solid var(--linen);
  padding: 8px 0;
  margin: 0;
}
.then span:last-child {
  white-space: nowrap;
}
</style>
