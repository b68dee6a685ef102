import { computed } from 'vue'
import { useKitchen } from '../api/queries'

const american: [RegExp, string][] = [
  [/sugar paste/g, 'fondant'],
  [/Sugar paste/g, 'Fondant'],
  [/flower paste/g, 'gum paste'],
  [/mould/g, 'mold'],
  [/Mould/g, 'Mold'],
  [/colour/g, 'color'],
  [/Colour/g, 'Color'],
  [/biscuit/g, 'cookie'],
]

/** The interface's own words, in the reader's English. */
export function useWords() {
  const kitchen = useKitchen()
  const us = computed(() => kitchen.data.value?.words === 'us')
  return (text: string) => (us.value ? american.reduce((s, [from, to]) => s.replace(from, to), text) : text)
}
