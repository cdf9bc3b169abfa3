/** Emails are made in a thread: a long one takes seconds, and nobody else waits for it. */
import type { Composer } from '#core/ports'
import { createComposer } from '#runtime/open'
import { Pool } from './work/pool'

// A course of a hundred emails makes them one after another; that many may wait who are looking at one.
const pool = new Pool({ file: 'emails.mjs', threads: 1, limitMs: 10_000, mostWaiting: 100, memoryMb: 512 })

export const composerInThread = (): Composer =>
  createComposer(async (...asked) => await pool.run('compile', asked) as Awaited<ReturnType<Composer['compile']>>)
