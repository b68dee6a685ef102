import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { CommissionView } from '../api/client'
import { usePieceView } from '../api/queries'

/**
 * The piece that the stages look at: kept in the address, so that it stays from stage to stage. Its row is in the list;
 * what follows from it is read when it is taken in hand.
 */
export function usePiece(commission: () => CommissionView) {
  const route = useRoute()
  const router = useRouter()
  const row = computed(
    () => commission().pieces.find((p) => p.id === Number(route.query.piece)) ?? commission().pieces[0],
  )
  const read = usePieceView(() => row.value?.id ?? 0)
  const piece = computed(() => read.data.value)
  const choose = (id: number) => void router.replace({ path: route.path, query: { piece: id } })
  return { row, piece, read, choose }
}
