import createClient from 'openapi-fetch'
import { ref } from 'vue'
import { serverNow } from './clock'
import { flush, keep, mayBeKept, type Kept } from './outbox'
import type { components, paths } from './schema'

type S = components['schemas']
export type Problem = S['Problem']
export type FieldView = S['FieldView']
export type RowView = S['RowView']
export type ToolView = S['ToolView']
export type PhotoView = S['PhotoView']
export type PieceView = S['PieceView']
export type Drawn = S['Drawn']
export type RollOutView = S['RollOutView']
export type Figure = S['Figure']
export type Why = S['Why']
export type Caution = S['Caution']
export type Leaf = S['Leaf']
export type CommissionRow = S['CommissionRow']
export type PieceRow = S['PieceRow']
export type LineMark = S['LineMark']
export type WeightView = S['WeightView']
export type PortionView = S['PortionView']
export type HeatView = S['HeatView']
export type CommissionView = S['CommissionView']
export type PasteView = S['PasteView']
export type KitchenView = S['KitchenView']
export type DryView = S['DryView']
export type LineView = S['LineView']
export type PinView = S['PinView']
export type BusyView = S['BusyView']
export type WorkloadView = S['Workload']
export type WaysOutView = S['WaysOutView']
export type RoughView = S['RoughView']
export type BenchView = S['BenchView']
export type Tally = S['Tally']
export type Trouble = S['Trouble']
export type LineStep = S['LineStep']
export type WaitView = S['WaitView']
export type TimerView = S['TimerView']
export type Choice = S['Choice']
export type LotView = S['LotView']
export type ColourView = S['ColourView']
export type RecipeView = S['RecipeView']
export type SchoolView = S['SchoolView']
export type Option = S['Option']
export type PatView = S['PatView']
export type PantryPreview = S['PantryPreview']
export type RoomView = S['RoomView']
export type PlaceView = S['PlaceView']
export type LivePlace = S['LivePlace']
export type StripView = S['StripView']
export type ShelfView = S['ShelfView']
export type RackView = S['RackView']
export type BatchView = S['BatchView']
export type TendIn = S['TendIn']
export type NoteIn = S['NoteIn']
export type TaughtView = S['TaughtView']
export type LearntRow = S['LearntRow']
export type NoteView = S['NoteView']
export type FinishStage = S['FinishStage']
export type ToneView = S['ToneView']
export type DustMixView = S['DustMixView']
export type JoinView = S['JoinView']
export type LeavingView = S['LeavingView']
export type CardView = S['CardView']
export type StopView = S['StopView']
export type RescueView = S['RescueView']
export type CauseView = S['CauseView']
export type SymptomView = S['SymptomView']
export type FadeView = S['FadeView']
export type Pass = S['Pass']
export type Kind = 'tools' | 'lots' | 'commissions' | 'pieces' | 'racks'

/** False while the server does not answer. */
export const reached = ref(true)

/** Who acts, as chosen at the bench; '' lets the server say who works these hours. */
export const person = ref(localStorage.getItem('dustyfern-person') ?? '')
export function setPerson(name: string) {
  person.value = name
  localStorage.setItem('dustyfern-person', name)
}

const windowId = Math.random().toString(36).slice(2, 10)
let acts = 0

const away = (detail: string): Problem => ({ type: 'about:blank', title: 'No answer', status: 0, detail, fields: [] })
const KEPT = 'The server does not answer. What you did is kept in this browser and is sent when it answers again.'
const NOT_DONE = 'The server does not answer: that was not done. Try once more when it answers.'
const GONE = 'The server does not answer. What you typed is still here: start Dusty Fern again, then try once more.'

function headers(k: Kept, late = false) {
  return {
    'Content-Type': 'application/json',
    'X-Act': k.act,
    ...(k.who ? { 'X-Person': k.who } : {}),
    ...(late ? { 'X-Done': String(Math.round(k.at)) } : {}),
  }
}

/** Acts on their way: until they are answered it is not known whose a change is. */
export const flying = ref(0)

const HOLDS = Symbol('holds')
/** How many changes of the studio an answer holds, just after it came; -1 where that is not said. */
export const holds = (answer: unknown) => ((answer as { [HOLDS]?: number } | null)?.[HOLDS] ?? 0) || -1

/** Keeps an act that could not be sent, when it is one that may be; the refusal says which. */
function setAside(act: Kept): Refused {
  if (!mayBeKept(act.url)) return new Refused(away(NOT_DONE))
  keep(act)
  return new Refused(away(KEPT))
}

export const api = createClient<paths>({
  baseUrl: '/api',
  fetch: async (request) => {
    if (request.method !== 'POST') {
      if (person.value) request.headers.set('X-Person', encodeURIComponent(person.value))
      try {
        const answer = await fetch(request)
        reached.value = true
        return answer
      } catch {
        reached.value = false
        throw new Refused(away(GONE))
      }
    }
    const url = new URL(request.url)
    const act: Kept = {
      url: url.pathname + url.search,
      body: (await request.text()) || '{}',
      act: `${windowId}/${Date.now().toString(36)}/${++acts}`,
      who: encodeURIComponent(person.value),
      at: serverNow(),
    }
    flying.value++
    try {
      const answer = await fetch(act.url, { method: 'POST', body: act.body, headers: headers(act) })
      reached.value = true
      if (answer.status === 503) throw setAside(act)
      return answer
    } catch (err) {
      if (err instanceof Refused) throw err
      reached.value = false
      throw setAside(act)
    } finally {
      flying.value--
    }
  },
})

/** Sends a file as it is; it is not kept while the server is away, since it is still chosen. */
export async function sendFile<T>(path: string, file: File): Promise<T> {
  let answer: Response
  try {
    answer = await fetch(`/api${path}`, {
      method: 'POST',
      body: file,
      headers: {
        'Content-Type': 'application/octet-stream',
        ...(person.value ? { 'X-Person': encodeURIComponent(person.value) } : {}),
      },
    })
  } catch {
    throw new Refused(away('The server does not answer. The file is still chosen: try once more.'))
  }
  const read = (await answer.json()) as T | Problem
  if (!answer.ok) throw new Refused(read as Problem)
  return read as T
}

/** Sends what was kept while the server was away. */
export const sendKept = () => flush((k) => fetch(k.url, { method: 'POST', body: k.body, headers: headers(k, true) }))

/** What the server refused, with the fields to mark. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail || problem.title)
  }
}

/** The data of an answer, or Refused. */
export async function take<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await answer
  if (data !== undefined) {
    if (typeof data === 'object' && data)
      Object.defineProperty(data, HOLDS, { value: Number(response.headers.get('X-Told')) })
    return data
  }
  const problem = error as Problem | undefined
  throw new Refused(
    problem && typeof problem === 'object' && 'status' in problem
      ? problem
      : { ...away('The server gave no readable answer. Try once more.'), status: response.status },
  )
}
