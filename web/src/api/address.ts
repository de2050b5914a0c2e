// Addresses of the API, typed by its OpenAPI document: which paths there are,
// what goes into each and what it answers is known to the compiler. What goes
// in is escaped here.
import type { paths } from './schema'

type Method = 'get' | 'post' | 'delete'

/** The paths that can be asked so. */
export type PathOf<M extends Method> = { [P in keyof paths]: paths[P][M] extends object ? P : never }[keyof paths]

type Json<Content> = Content extends { 'application/json': infer A } ? A : unknown
type Operation<P extends keyof paths, M extends Method> = NonNullable<paths[P][M]>

type Answered<O> = O extends { responses: { 200: { content: infer C } } | { 201: { content: infer C } } } ? Json<C> : unknown
type Sent<O> = O extends { requestBody?: { content: infer C } } ? Unbased<Json<C>> : unknown
/** Which revision a change goes by is put in where it is sent. */
type Unbased<B> = B extends { base_revision: number } ? Omit<B, 'base_revision'> & { base_revision?: number } : B
type Known<T> = [NonNullable<T>] extends [never] ? unknown : NonNullable<T>
type Filling<O> = O extends { parameters: { path?: infer InPath; query?: infer Query } } ? Known<InPath> & Known<Query> : unknown

/** What a path answers. */
export type Answer<P extends keyof paths, M extends Method> = Answered<Operation<P, M>>

/** What is sent to a path. */
export type Body<P extends keyof paths> = Sent<Operation<P, 'post'>>

/** What stands in braces in a path, and its query. */
export type Params<P extends keyof paths, M extends Method> = Filling<Operation<P, M>>

/** Absent where nothing has to be said. */
export type ParamsOf<P extends keyof paths, M extends Method> =
  object extends Params<P, M> ? [params?: Params<P, M>] : [params: Params<P, M>]

declare const answers: unique symbol
/** An address that answers such a thing. */
export type Address<A> = string & { readonly [answers]: A }

export function fill(path: string, params: object = {}): string {
  const left: Record<string, unknown> = { ...params }
  const filled = path.replaceAll(/\{(\w+)\}/g, (_, name: string) => {
    const value = String(left[name])
    left[name] = undefined
    return encodeURIComponent(value)
  })
  const query = new URLSearchParams()
  for (const [name, value] of Object.entries(left)) {
    for (const one of Array.isArray(value) ? value : [value]) if (one !== undefined && one !== '') query.append(name, String(one))
  }
  return query.size ? `${filled}?${query}` : filled
}

/** The address of what is asked for, such as api('/api/v1/racks/{id}/wiring', { id }). */
export function api<P extends PathOf<'get'>>(path: P, ...[params]: ParamsOf<P, 'get'>): Address<Answer<P, 'get'>> {
  return fill(path, params as object | undefined) as Address<Answer<P, 'get'>>
}
