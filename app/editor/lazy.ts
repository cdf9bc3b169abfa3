/** The editors come when one is opened: what those of text are made of is as large as everything else of a screen together. */
import { whenNeeded } from '~/components/whenNeeded'

export const RichEditor = whenNeeded(() => import('~/components/RichEditor.vue'))
export const LineEditor = whenNeeded(() => import('~/components/LineEditor.vue'))
export const ConditionEditor = whenNeeded(() => import('~/components/condition/ConditionEditor.vue'))
