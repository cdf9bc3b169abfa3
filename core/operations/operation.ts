/** How an operation is described. */

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE'

/** What is sent, and what comes back; `file`: the body is one. What a query leaves out, the server fills in. */
export interface Asking { body?: unknown, query?: object, file?: true, answer: unknown }

// It is what its work gives back that is nothing, and so is this.
// oxlint-disable-next-line typescript/no-invalid-void-type
export type Nothing = void

/** A file, or a page of its own: taken by its address, not asked for by a screen. */
export type Download = unknown

/** The names in a path that begin with a colon. */
export type NamesIn<Path> =
  Path extends `${string}/:${infer Name}/${infer Rest}` ? Name | NamesIn<`/${Rest}`>
    : Path extends `${string}/:${infer Name}` ? Name : never

/** The path of an operation, with what is in the place of its names. Throws if one is missing. */
export function pathOf(operation: string, at: Record<string, string | number> = {}): string {
  return operation.slice(operation.indexOf(' ') + 2).split('/').map((part) => {
    if (!part.startsWith(':')) return part
    const value = at[part.slice(1)]
    if (value === undefined) throw new Error(`${operation} without ${part}`)
    return encodeURIComponent(value)
  }).join('/')
}
