/** What conditions can be about: loaded once for a screen, and handed down to every row of its conditions. */
import { inject, onMounted, provide, ref, type InjectionKey, type Ref } from 'vue'
import type { ConditionParts } from '#core/views/audience'
import type { RuleParts } from '#core/views/rules'
import { api } from './useApi'

const KEY: InjectionKey<Ref<ConditionParts | null>> = Symbol('parts of conditions')

/** For the screen. */
export const provideParts = () => provideFrom(() => api('GET /audience/parts'))

/** For a screen of rules, whose conditions can be about the same. */
export const provideRuleParts = () => provideFrom(() => api('GET /rules/parts'))

function provideFrom<Parts extends ConditionParts>(ask: () => Promise<Parts>) {
  const parts = ref(null) as Ref<Parts | null>
  const problem = ref<string | null>(null)
  async function load() {
    try {
      parts.value = await ask()
      problem.value = null
    }
    catch (error) {
      problem.value = (error as Error).message
    }
  }
  onMounted(load)
  provide(KEY, parts)
  return { parts, problem, load }
}

/** For the rows, which are only drawn once there are parts. */
export function useParts(): Ref<ConditionParts> {
  return inject(KEY) as Ref<ConditionParts>
}

export function useRuleParts(): Ref<RuleParts> {
  return inject(KEY) as Ref<RuleParts>
}
