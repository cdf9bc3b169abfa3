/** What can be chosen where a field is not typed: countries, zones, yes and no, choices. */
import { COUNTRIES } from '#core/people/country'
import type { Field } from '#core/people/field'
import { isZone } from '#core/time/zone'

export interface FieldOption { value: string, name: string }

export const COUNTRY_OPTIONS: readonly FieldOption[] = COUNTRIES.map(({ code, name }) => ({ value: code, name }))
export const ZONE_OPTIONS: readonly FieldOption[] = Intl.supportedValuesOf('timeZone').filter(isZone)
  .map(value => ({ value, name: value.replaceAll('_', ' ') }))

type Kind = Pick<Field, 'kind' | 'choices'>

export const isChosen = ({ kind }: Kind): boolean => ['yes-no', 'choice', 'country', 'zone'].includes(kind)

export function fieldOptions({ kind, choices }: Kind): FieldOption[] {
  return kind === 'country'
    ? [...COUNTRY_OPTIONS]
    : kind === 'zone' ? [...ZONE_OPTIONS] : (kind === 'yes-no' ? ['yes', 'no'] : choices).map(value => ({ value, name: value }))
}
