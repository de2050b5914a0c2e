// Talks to the server. Shapes come from its OpenAPI document; nothing here
// knows what a record looks like.
import { ref } from 'vue'
import { api, fill, type Address, type Answer, type Body, type ParamsOf, type PathOf } from './address'
import type { components } from './schema'

export type Schemas = components['schemas']
export type Lab = Schemas['Lab']
export type Delta = Schemas['Delta']
export type Device = Schemas['Device']
export type Rack = Schemas['Rack']
export type Place = Schemas['Place']
export type Settings = Schemas['Settings']
export type Spot = Schemas['Spot']
export type Key = Schemas['Key']
export type Face = Schemas['Face']
export type Slot = Schemas['Slot']
export type Space = Schemas['Space']
export type Piece = Schemas['Piece']
export type Mistake = Schemas['Mistake']
export type Edit = Schemas['Edit']
export type Plan = Schemas['Plan']
export type LineCheck = Schemas['LineCheck']
export type ChangeIn = Schemas['ChangeIn']
export type Problem = Schemas['Problem']
export type Draft = Schemas['Draft']
export type Step = Schemas['Step']
export type Note = Schemas['Note']
export type Acceptance = Schemas['Acceptance']
export type Finding = Schemas['Finding']
export type Comparison = Schemas['Comparison']
export type DraftEffect = Schemas['DraftEffect']

/** Which lab every request is about: '' as built, 'draft:ID', 'on:DAY' or 'at:NUMBER'. */
export const view = ref('')

/** A request that was refused, with a sentence a person can act on. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.errors?.length === 1 ? problem.errors[0]?.detail : problem.detail)
  }
}

const unreachable = 'Levelstaff does not answer. Is it still running? Nothing was changed.'

/** The address with the view that is chosen, unless it names one itself. */
function seen(path: string): string {
  if (!view.value || path.includes('view=')) return path
  return `${path}${path.includes('?') ? '&' : '?'}view=${encodeURIComponent(view.value)}`
}

async function request(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Response> {
  const init: RequestInit = { method, headers }
  if (body instanceof Blob) {
    init.body = body // a file goes as it is
    headers['Content-Type'] = body.type || 'application/octet-stream'
  } else if (body !== undefined) {
    init.body = JSON.stringify(body)
    headers['Content-Type'] = 'application/json'
  }
  let response: Response
  try {
    response = await fetch(seen(path), init)
  } catch {
    throw new Refused({ type: 'about:blank', title: 'No answer', status: 0, detail: unreachable })
  }
  if (response.ok || response.status === 304) return response
  if (response.status === 401) location.assign('/sign-in')
  if (response.headers.get('Content-Type')?.startsWith('application/problem+json')) {
    throw new Refused((await response.json()) as Problem)
  }
  throw new Refused({ type: 'about:blank', title: response.statusText, status: response.status, detail: unreachable })
}

export async function get<A>(address: Address<A>): Promise<A> {
  return (await (await request('GET', address)).json()) as A
}

export async function getText(path: string): Promise<string> {
  return (await request('GET', path)).text()
}

/** The lab as it is looked at, or undefined if it is still at the given revision. */
export async function getLab(known?: number): Promise<Lab | undefined> {
  const headers: Record<string, string> = known === undefined ? {} : { 'If-None-Match': `"${known}"` }
  const response = await request('GET', '/api/v1/lab', undefined, headers)
  return response.status === 304 ? undefined : ((await response.json()) as Lab)
}

/** The lab at another view than the one that is chosen. */
export const getLabAt = (view: string): Promise<Lab> => get(api('/api/v1/lab', { view }))

export async function post<P extends PathOf<'post'>>(
  path: P,
  body: Body<P> | Blob,
  ...[params]: ParamsOf<P, 'post'>
): Promise<Answer<P, 'post'>> {
  return (await (await request('POST', fill(path, params as object | undefined), body)).json()) as Answer<P, 'post'>
}

export async function del<P extends PathOf<'delete'>>(path: P, ...[params]: ParamsOf<P, 'delete'>): Promise<Answer<P, 'delete'>> {
  return (await (await request('DELETE', fill(path, params as object | undefined))).json()) as Answer<P, 'delete'>
}
