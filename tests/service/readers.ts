/** What a reader does with an email, for tests that ask what follows from it. */
import { recordClick } from '#usecases/reading/click'
import { recordOpen } from '#usecases/reading/open'
import type { Workshop } from './workshop'

const READER = { agent: 'Mozilla/5.0', robot: false, certain: true }
/** Fetches every picture as it arrives, for whoever may read it later. */
const PROGRAM = {
  agent: 'Mozilla/5.0 (Windows NT 5.1; rv:11.0) Gecko Firefox/11.0 (via ggpht.com GoogleImageProxy)', robot: true, certain: false,
}

export const open = (context: Workshop, outboxId: number, by: 'reader' | 'program' = 'reader'): void =>
  recordOpen(context, outboxId, by === 'reader' ? READER : PROGRAM)

export const click = (context: Workshop, outboxId: number, linkN = 0): void => recordClick(context, outboxId, linkN, READER)
