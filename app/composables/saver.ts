/** Saving by itself, a moment after the last change: what is to be sent, when, and what is said meanwhile. Draws and fetches nothing. */
import { ref, type Ref } from 'vue'

/** `elsewhere`: it was changed in another window, and waits for a word about which of the two counts. */
export type SaveState = 'saved' | 'typing' | 'saving' | 'failed' | 'elsewhere'

export const QUIET_MS = 500
export const RETRY_MS = 3000

export interface SaverParts<Problem> {
  /** What stands here now, as JSON; null while there is nothing yet. */
  text(): string | null
  /** Sends `text` away with the revision it was made from, and tells the new one. */
  save(text: string, seen: string | undefined): Promise<string>
  problemOf(error: unknown): Problem & { status: number }
  /** Does `act` after `ms`, in place of what was to be done before. */
  later(ms: number, act: () => void): void
  /** Forgets what was to be done later. */
  never(): void
}

export interface Saver<Problem> {
  state: Ref<SaveState>
  problem: Ref<Problem | null>
  /** The revision that stands here, for what is done with it as it is seen. */
  revision: Ref<string | undefined>
  /** What stands here has just come from the server. */
  begin(): void
  /** What stands here was changed. */
  changed(): void
  /** Saves now, if there is anything to save; false if it could not. */
  flush(): Promise<boolean>
  /** Whether something stands here that the server has not been told. */
  unsaved(): boolean
  /** Says that it was changed elsewhere, where something else than saving has found that out. */
  changedElsewhere(): void
  /** What stands here takes the place of what stands there. */
  keepMine(): Promise<void>
  /** What stands here is given up for what stands there. */
  giveUp(): void
}

export function makeSaver<Problem>({ text, save, problemOf, later, never }: SaverParts<Problem>): Saver<Problem> {
  const state = ref<SaveState>('saved')
  const problem = ref<Problem | null>(null) as Ref<Problem | null>
  const revision = ref<string>()
  let savedAs: string | null = null
  /** What was sent and never answered: the server may have it or not. */
  let lost: string | null = null
  let underWay: Promise<boolean> | null = null

  function settle() {
    never()
    problem.value = null
    state.value = 'saved'
  }

  async function send(now: string): Promise<boolean> {
    state.value = 'saving'
    try {
      // Told again first, so that the server's own answer that was lost is not taken for another window.
      if (lost !== null && lost !== now) revision.value = await save(lost, revision.value)
      lost = now
      revision.value = await save(now, revision.value)
      lost = null
      savedAs = now
      problem.value = null
      state.value = text() === now ? 'saved' : 'typing'
      return true
    } catch (error) {
      const met = problemOf(error)
      problem.value = met
      state.value = met.status === 412 ? 'elsewhere' : 'failed'
      // The server was away, not the input wrong: try again by itself.
      if (met.status === 0 || met.status >= 500) {
        savedAs = null
        later(RETRY_MS, () => void flush())
      } else lost = null
      return false
    }
  }

  async function flush(): Promise<boolean> {
    never()
    while (underWay) await underWay
    const now = text()
    // Nothing is sent while it is open which of the two counts.
    if (state.value === 'elsewhere') return now === savedAs
    if (now === null || now === savedAs) {
      settle()
      return true
    }
    underWay = send(now).finally(() => {
      underWay = null
    })
    return underWay
  }

  function changed() {
    if (state.value === 'elsewhere') return
    // Taken back before it was sent; while something is under way, what is saved will be another.
    if (text() === savedAs && !underWay) return settle()
    state.value = 'typing'
    later(QUIET_MS, () => void flush())
  }

  return {
    state, problem, revision, changed, flush,
    begin() {
      savedAs = text()
    },
    unsaved: () => state.value !== 'saved' || text() !== savedAs,
    changedElsewhere() {
      state.value = 'elsewhere'
    },
    async keepMine() {
      revision.value = undefined
      savedAs = null
      lost = null
      state.value = 'typing'
      await flush()
    },
    giveUp() {
      savedAs = text()
      settle()
    },
  }
}
