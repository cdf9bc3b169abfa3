import { dequal } from 'dequal'

/** Whether something is in force as it is written: nothing waits to be published with the next change. */
export const isSame = ({ published, draft }: { published: unknown, draft: unknown }): boolean =>
  published !== null && dequal(published, draft)
