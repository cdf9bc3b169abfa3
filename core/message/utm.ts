/** Values added to the addresses that the links of an email lead to, for whoever counts visits there. Common practice, no source. */
import { isTracked } from './webAddress'

export interface Utm { source: string, medium: string, campaign: string }

/** The same address with what it lacks of them. What its writer has put there stays. */
export function withUtm(url: string, utm: Utm | null | undefined): string {
  const parsed = utm && isTracked(url) ? URL.parse(url) : null
  if (!parsed) return url
  for (const [name, value] of Object.entries(utm!)) {
    if (value.trim() !== '' && !parsed.searchParams.has(`utm_${name}`)) parsed.searchParams.set(`utm_${name}`, value.trim())
  }
  return parsed.href
}
