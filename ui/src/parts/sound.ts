import { ref } from 'vue'

let ctx: AudioContext | undefined

/** True while the browser forbids sound: one touch allows it. */
export const silent = ref(false)

function audio(): AudioContext | undefined {
  try {
    ctx ??= new AudioContext()
  } catch {
    return undefined
  }
  return ctx
}

/** Asks the browser for sound; called from a touch or a key. */
export async function allowSound() {
  const a = audio()
  if (a?.state === 'suspended') await a.resume().catch(() => undefined)
  silent.value = a?.state !== 'running'
}

/** Two short notes. */
export function chime() {
  const a = audio()
  if (!a || a.state !== 'running') {
    silent.value = true
    return
  }
  silent.value = false
  for (const [at, hz] of [
    [0, 880],
    [0.22, 1175],
  ] as const) {
    const tone = a.createOscillator()
    const loud = a.createGain()
    tone.frequency.value = hz
    loud.gain.setValueAtTime(0.0001, a.currentTime + at)
    loud.gain.exponentialRampToValueAtTime(0.25, a.currentTime + at + 0.02)
    loud.gain.exponentialRampToValueAtTime(0.0001, a.currentTime + at + 0.2)
    tone.connect(loud).connect(a.destination)
    tone.start(a.currentTime + at)
    tone.stop(a.currentTime + at + 0.22)
  }
}
