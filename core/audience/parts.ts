/** The two parts of a condition as its owner writes it: who belongs, but never who. */
import { EVERYBODY, isGroup, type Condition, type Group } from './condition'

export interface TwoParts { belongs: Group, never: Group }

const none = (of: Condition[] = []): Group => ({ kind: 'none', of })

/** Any tree has the two parts: what is not of that shape stands whole under who belongs. */
export function partsOf(whole: Condition): TwoParts {
  if (!isGroup(whole)) return { belongs: { kind: 'all', of: [whole] }, never: none() }
  const [first, second] = whole.of
  if (whole.kind === 'all' && whole.of.length === 2 && isGroup(first!) && first.kind !== 'none' && isGroup(second!)
    && second.kind === 'none') return { belongs: first, never: second }
  if (whole.kind === 'none') return { belongs: { kind: 'all', of: [] }, never: whole }
  return { belongs: whole, never: none() }
}

export const ofParts = ({ belongs, never }: TwoParts): Condition => ({ kind: 'all', of: [belongs, never] })

/** Everybody, and nobody left out: where writing one begins. */
export const bothParts = (): Condition => ofParts({ belongs: { ...EVERYBODY as Group, of: [] }, never: none() })
