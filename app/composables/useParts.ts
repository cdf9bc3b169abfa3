/** What conditions can be about: loaded once for a screen, and handed down to every row of its conditions. */
import { inject, onMounted, provide, ref, type InjectionKey, type Ref } from 'vue'
import type { ConditionParts } from '#core/views/audience'
import type { RuleParts } from '#core/views/rules'
import { api } from './useApi'

const KEY: InjectionKey<Ref<ConditionParts | null>> = Symbol('parts of conditions')
const RULES_KEY: InjectionKey<Provided<RuleParts>> = Symbol('parts of rules')

interface Provided<Parts> { parts: Ref<Parts | null>, problem: Ref<string | null>, load: () => Promise<void> }

/** For the screen. */
export const provideParts = () => provideFrom(() => api('GET /audience/parts'))

/** For a screen of rules, whose conditions can be about the same; or for a part of one, which then takes what its screen has loaded. */
export function provideRuleParts(): Provided<RuleParts> {
  const ofScreen = inject(RULES_KEY, null)
  if (ofScreen) return ofScreen
  const provided = provideFrom(() => api('GET /rules/parts'))
  provide(RULES_KEY, provided)
  return provided
}

function provideFrom<Parts extends ConditionParts>(ask: () => Promise<Parts>): Provided<Parts> {
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
