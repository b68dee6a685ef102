import { ref } from 'vue'
import { Refused, sendFile } from '../api/client'
import { cache, useStudio } from '../api/queries'

/**
 * A table that is brought in: looked at as soon as it is chosen and whenever a column is matched otherwise, kept when
 * somebody says so. `query` says how the columns are taken, of what was seen last.
 */
export function useTableIn<Look>(doors: { look: string; take: string }, query: (seen?: Look) => string) {
  const studio = useStudio()
  const file = ref<File>()
  const look = ref<Look>()
  const fault = ref('')
  const done = ref('')
  const busy = ref(false)
  let asked = 0
  async function attempt(what: (file: File) => Promise<void>) {
    if (!file.value) return
    fault.value = ''
    busy.value = true
    try {
      await what(file.value)
    } catch (err) {
      fault.value = err instanceof Refused ? (err.problem.fields[0]?.detail ?? err.message) : 'It was not read.'
    }
    busy.value = false
  }
  const door = (name: string) => `/s/${studio.value}/${name}?${query(look.value as Look | undefined)}`
  const see = () =>
    attempt(async (f) => {
      const mine = ++asked // a column that is picked meanwhile is not lost
      const seen = await sendFile<Look>(door(doors.look), f)
      if (mine === asked) look.value = seen
    })
  function choose(f: File) {
    file.value = f
    look.value = undefined
    done.value = ''
    void see()
  }
  const take = () =>
    attempt(async (f) => {
      done.value = (await sendFile<{ says: string }>(door(doors.take), f)).says
      look.value = file.value = undefined
      await cache.invalidateQueries()
    })
  return { look, fault, done, busy, see, choose, take }
}
