/** Answers and refusals cross the threads as plain data. */
import { InputProblem, NotNow, NotThere } from '#usecases/problem'
import { Refused } from '../refused'

export type Packed =
  | { kind: 'answer', answer: unknown }
  | { kind: 'input', problems: { field: string, problem: string }[] }
  | { kind: 'refused', status: number, message: string }
  | { kind: 'not-there' | 'not-now' | 'failed', message: string, stack?: string }

export async function packed(work: () => unknown): Promise<Packed> {
  try {
    return { kind: 'answer', answer: await work() }
  }
  catch (error) {
    if (error instanceof InputProblem) return { kind: 'input', problems: error.problems }
    if (error instanceof Refused) return { kind: 'refused', status: error.status, message: error.message }
    const { message, stack } = error as Error
    return { kind: error instanceof NotThere ? 'not-there' : error instanceof NotNow ? 'not-now' : 'failed', message, stack }
  }
}

/** Throws what was refused. */
export function unpacked(packed: Packed): unknown {
  switch (packed.kind) {
    case 'answer': return packed.answer
    case 'input': throw new InputProblem(packed.problems)
    case 'refused': throw new Refused(packed.status, packed.message)
    case 'not-there': throw new NotThere(packed.message)
    case 'not-now': throw new NotNow(packed.message)
    case 'failed': throw Object.assign(new Error(packed.message), { stack: packed.stack })
  }
}
