import { onBeforeUnmount, onMounted, ref } from 'vue'

/** Keeps the screen awake while the component is shown; says when the browser does not. */
export function useAwake() {
  const asleep = ref(false)
  let lock: WakeLockSentinel | undefined
  async function hold() {
    try {
      lock = await navigator.wakeLock.request('screen')
      asleep.value = false
    } catch {
      asleep.value = true
    }
  }
  const again = () => document.visibilityState === 'visible' && void hold()
  onMounted(() => {
    void hold()
    document.addEventListener('visibilitychange', again)
  })
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', again)
    void lock?.release()
  })
  return asleep
}
