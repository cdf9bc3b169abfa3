/** Copies that other installations offer by a link. */
import { createCopyFetcher } from '#adapters/copyFetcher'
import type { CopyFetcher } from '#core/ports'
import type { Mode } from '#core/views/frame'
import type { Database } from '#data/connection'
import { allowsInside } from '#data/hooks'
import { createPracticeCopyFetcher } from '#standins/copyFetcher'

export const copyFetcherOf = ({ mode, db }: { mode: Mode, db: Database }, mostBytes: number): CopyFetcher => mode === 'practice'
  ? createPracticeCopyFetcher()
  : createCopyFetcher({ mostBytes, allowInside: () => allowsInside(db) })
