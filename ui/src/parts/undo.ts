import { ref } from 'vue'

export interface Undo {
  say: string
  back: () => void
}

/** What was taken away last, and how it comes back. */
export const undo = ref<Undo | null>(null)

export function offerUndo(say: string, back: () => void) {
  undo.value = { say, back }
}
