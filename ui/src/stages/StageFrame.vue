<script setup lang="ts">
import type { CommissionView, PieceView } from '../api/client'
import { useStudio } from '../api/queries'
import PieceList from './PieceList.vue'

defineProps<{ commission: CommissionView; piece?: PieceView }>()
defineEmits<{ choose: [id: number] }>()
const studio = useStudio()
</script>

<template>
  <div v-if="!piece" class="flour none">
    <h2>No pieces yet</h2>
    <p>
      Say what goes on it first:
      <RouterLink :to="`/s/${studio}/commissions/${commission.id}/pieces`">add a piece</RouterLink>.
    </p>
  </div>
  <div v-else class="frame">
    <PieceList :commission="commission" :chosen="piece.id" @choose="(id) => $emit('choose', id)" />
    <section class="flour work" :aria-label="piece.name">
      <header class="row">
        <h2>{{ piece.name }}</h2>
        <span class="quiet"
          >{{ piece.wanted }} wanted<template v-if="piece.mouldName">, {{ piece.mouldName }}</template></span
        >
      </header>
      <p v-if="piece.missing" class="soon" role="status">{{ piece.missing }}</p>
      <slot />
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
}
.work {
  padding: 18px 24px 22px;
  min-width: 0;
}
@media (max-width: 900px) {
  .frame {
    grid-template-columns: minmax(0, 1fr);
  }
  .work {
    padding: 14px;
  }
}
</style>
