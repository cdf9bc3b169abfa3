/** Entry of the thread in which the web server makes emails. */
import { compileEmail, loadMjml } from './compileEmail'

/** What the pool calls: the first once the thread has started, so that what is loaded takes nothing from the time for an email. */
export const ready = async (): Promise<void> => void await loadMjml()
export const compile = (asked: Parameters<typeof compileEmail>) => compileEmail(...asked)
