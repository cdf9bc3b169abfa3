/** Something asked of the server that may be refused: whether it is under way, and what was wrong the last time. */
import { ref, type Ref } from 'vue'
import { ApiProblem } from './useApi'

export interface Attempt {
  busy: Ref<boolean>
  problem: Ref<ApiProblem | null>
  /** True if `work` went through; otherwise `problem` says why not. */
  attempt(work: () => Promise<unknown>): Promise<boolean>
}

export function useAttempt(): Attempt {
  const busy = ref(false)
  const problem = ref<ApiProblem | null>(null)

  async function attempt(work: () => Promise<unknown>): Promise<boolean> {
    busy.value = true
    problem.value = null
    try {
      await work()
      return true
    }
    catch (error) {
      problem.value = error instanceof ApiProblem ? error : new ApiProblem(0, String(error), [])
      return false
    }
    finally {
      busy.value = false
    }
  }
  return { busy, problem, attempt }
}
