/** What can be chosen where a field is not typed: countries, zones, yes and no, choices. */
import { allCountries } from '#core/people/country'
import type { Field } from '#core/people/field'

export interface FieldOption { value: string, name: string }

let countries: FieldOption[] | undefined
let zones: FieldOption[] | undefined

const asOption = (zone: string): FieldOption => ({ value: zone, name: zone.replaceAll('_', ' ') })

export const countryOptions = (): FieldOption[] => countries ??= allCountries().map(({ code, name }) => ({ value: code, name }))

/** Every zone this browser knows, with the `likely` one first. */
export function zoneOptions(likely?: string): FieldOption[] {
  zones ??= [...new Set(['UTC', ...Intl.supportedValuesOf('timeZone')])].map(asOption)
  return likely ? [asOption(likely), ...zones.filter(({ value }) => value !== likely)] : zones
}

type Kind = Pick<Field, 'kind' | 'choices'>

export const isChosen = ({ kind }: Kind): boolean => ['yes-no', 'choice', 'country', 'zone'].includes(kind)

export function fieldOptions({ kind, choices }: Kind): FieldOption[] {
  return kind === 'country'
    ? countryOptions()
    : kind === 'zone' ? zoneOptions() : (kind === 'yes-no' ? ['yes', 'no'] : choices).map(value => ({ value, name: value }))
}
