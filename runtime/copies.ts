/** Copies that other installations offer by a link. */
import { createCopyFetcher } from '#adapters/copyFetcher'
import type { CopyFetcher } from '#core/ports'
import { allowsInside } from '#data/hooks'
import { createPracticeCopyFetcher } from '#standins/copyFetcher'
import type { WorkspaceContext } from '#usecases/context'

export const copyFetcherOf = ({ mode, db }: Pick<WorkspaceContext, 'mode' | 'db'>, mostBytes: number): CopyFetcher => mode === 'practice'
  ? createPracticeCopyFetcher()
  : createCopyFetcher({ mostBytes, allowInside: () => allowsInside(db) })
