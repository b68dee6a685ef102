import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { CommissionView } from '../api/client'

/** The piece that the stages look at: kept in the address, so that it stays from stage to stage. */
export function usePiece(commission: () => CommissionView) {
  const route = useRoute()
  const router = useRouter()
  const piece = computed(
    () => commission().pieces.find((p) => p.id === Number(route.query.piece)) ?? commission().pieces[0],
  )
  const choose = (id: number) => void router.replace({ path: route.path, query: { piece: id } })
  return { piece, choose }
}
