/** What is done with files and large bodies, in a thread of its own. */
import type { IncomingFile } from '#usecases/know/importFile'
import type { WorkspaceContext } from '#usecases/context'
import type { PastSales } from '#usecases/offers/pastSales'
import type { LargeName } from './schemas'

export type Job =
  | { kind: 'check', name: LargeName, body: { text: string, type: string } | { raw: unknown } }
  | { kind: 'course', bytes: Uint8Array }
  | { kind: 'broadcast', bytes: Uint8Array }
  | { kind: 'import', mode: WorkspaceContext['mode'], file: IncomingFile }
  | { kind: 'past-sales', mode: WorkspaceContext['mode'], file: PastSales, bring: boolean }
