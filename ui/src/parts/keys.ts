import { onBeforeUnmount, onMounted } from 'vue'
import { useKitchen } from '../api/queries'

/** Keys sleep in fields, buttons, sliders and dialogs, and when Kitchen says so. */
function asleep(): boolean {
  if (document.querySelector('[role=dialog]')) return true
  const at = document.activeElement
  return !!at?.closest('input, textarea, select, button, a, [role=slider], [role=combobox], [contenteditable]')
}

/** Listens for single keys while the component is shown. */
export function useKeys(keys: Record<string, () => void>) {
  const kitchen = useKitchen()
  const listen = (e: KeyboardEvent) => {
    if (e.altKey || e.repeat || kitchen.data.value?.keys === false || asleep()) return
    const name = e.key.length === 1 ? e.key.toLowerCase() : e.key
    const act = keys[e.ctrlKey || e.metaKey ? `ctrl+${e.shiftKey ? 'shift+' : ''}${name}` : name]
    if (!act) return
    e.preventDefault()
    act()
  }
  onMounted(() => window.addEventListener('keydown', listen))
  onBeforeUnmount(() => window.removeEventListener('keydown', listen))
}
