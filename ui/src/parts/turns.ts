/**
 * One act after the other. A press of the same thing while it is on its way does nothing twice; a press of what came up
 * meanwhile (an event may show it before the answer is here) waits its turn.
 */
export function useTurns() {
  let flying = ''
  let next: (() => void) | undefined
  return async function inTurn(key: string, run: () => Promise<void>) {
    if (flying) {
      if (key !== flying) next = () => void inTurn(key, run)
      return
    }
    flying = key
    try {
      await run()
    } finally {
      flying = ''
      const waiting = next
      next = undefined
      waiting?.()
    }
  }
}
