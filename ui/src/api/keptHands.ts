import { computed, type Ref } from 'vue'
import type { BenchView, Tally } from './client'
import { keptOf } from './outbox'

/**
 * What hands did of a step while the server is away, and what they may go on with: a ball pressed and turned out at
 * once may follow a ball; what begins a wait, or ends a step, is kept once.
 */
export function useKeptHands(step: Ref<BenchView['now']>, move: Ref<BenchView['move']>, tally: Ref<Tally | undefined>) {
  const kept = computed(() => keptOf(step.value?.op ?? '').presses)
  const keptSays = computed(() => {
    const m = move.value
    if (!kept.value) return ''
    if (m?.do === 'pressOut' && m.n + kept.value <= m.of) return `${kept.value} kept, ball ${m.n + kept.value} next`
    return `${kept.value} kept: sent when the server answers`
  })
  const full = computed(() => {
    const m = move.value
    return kept.value > 0 && !(m?.do === 'pressOut' && m.n + kept.value <= m.of)
  })
  const counted = computed(() => {
    const k = keptOf(tally.value?.op ?? '')
    const by = k.by ? `count ${k.by > 0 ? '+' : '−'}${Math.abs(k.by)}` : ''
    return [by, k.broke && `${k.broke} broke`].filter(Boolean).join(', ')
  })
  return { kept, keptSays, full, counted }
}
