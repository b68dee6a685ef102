<script setup lang="ts">
import type { CommissionView, PieceRow } from '../api/client'
import { useStudio, type usePieceView } from '../api/queries'
import LoadState from '../parts/LoadState.vue'
import LastTimes from '../parts/LastTimes.vue'
import PieceList from './PieceList.vue'

defineProps<{ commission: CommissionView; row?: PieceRow; read: ReturnType<typeof usePieceView> }>()
defineEmits<{ choose: [id: number] }>()
const studio = useStudio()
</script>

<template>
  <div v-if="!row" class="flour none">
    <h2>No pieces yet</h2>
    <p>
      Say what goes on it first:
      <RouterLink :to="`/s/${studio}/commissions/${commission.id}/pieces`">add a piece</RouterLink>.
    </p>
  </div>
  <div v-else class="frame">
    <PieceList :commission="commission" :chosen="row.id" @choose="(id) => $emit('choose', id)" />
    <section class="flour work" :aria-label="row.name">
      <header class="row">
        <h2>{{ row.name }}</h2>
        <span class="quiet"
          >{{ row.needed }} wanted<template v-if="row.toolName">, {{ row.toolName }}</template></span
        >
      </header>
      <p v-if="row.missing" class="soon" role="status">{{ row.missing }}</p>
      <LoadState :error="read.error.value" :loading="read.isPending.value" @again="read.refetch()" />
      <LastTimes v-if="read.data.value" :last="read.data.value.last" />
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
