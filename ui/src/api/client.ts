import createClient from 'openapi-fetch'
import { ref } from 'vue'
import type { components, paths } from './schema'

type S = components['schemas']
export type Problem = S['Problem']
export type FieldView = S['FieldView']
export type RowView = S['RowView']
export type Figure = S['Figure']
export type Why = S['Why']
export type Caution = S['Caution']
export type Leaf = S['Leaf']
export type CommissionRow = S['CommissionRow']
export type CommissionView = S['CommissionView']
export type PieceView = S['PieceView']
export type PasteView = S['PasteView']
export type DryView = S['DryView']
export type LineView = S['LineView']
export type LineStep = S['LineStep']
export type BenchView = S['BenchView']
export type KitchenView = S['KitchenView']
export type Kind = 'tools' | 'lots' | 'commissions' | 'pieces'

/** False while the server does not answer. */
export const reached = ref(true)

export const api = createClient<paths>({
  baseUrl: '/api',
  fetch: async (request) => {
    try {
      const answer = await fetch(request)
      reached.value = true
      return answer
    } catch {
      reached.value = false
      throw new Refused({
        type: 'about:blank',
        title: 'No answer',
        status: 0,
        detail: 'The server does not answer. What you typed is still here: start Dusty Fern again, then try once more.',
        fields: [],
      })
    }
  },
})

/** What the server refused, with the fields to mark. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail || problem.title)
  }
}

/** The data of an answer, or Refused. */
export async function take<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await answer
  if (data !== undefined) return data
  const problem = error as Problem | undefined
  throw new Refused(
    problem && typeof problem === 'object' && 'status' in problem
      ? problem
      : {
          type: 'about:blank',
          title: 'No answer',
          status: response.status,
          detail: 'The server gave no readable answer. Try once more.',
          fields: [],
        },
  )
}
