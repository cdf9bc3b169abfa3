/** Addresses that are real and still mostly nobody's: of a role, and of a domain that throws its mail away. */

/** Taken like any other; taken after the visitor said once more that it is meant; not taken. */
export const ODD_WAYS = ['take', 'warn', 'refuse'] as const
export type OddWay = typeof ODD_WAYS[number]

export interface OddAddressRule { role: OddWay, throwaway: OddWay }

/** Mailbox names that RFC 2142 gives to roles, and a few that are common practice (no source). */
const ROLES = new Set(('info marketing sales support abuse noc security postmaster hostmaster usenet news webmaster www uucp ftp '
  + 'admin administrator contact office team hello hi help mail noreply no-reply billing accounts jobs hr press enquiries root sysadmin').split(' '))

/** `info@example.com`, also `info+list@example.com`. */
export const isRoleAddress = (addressKey: string): boolean => ROLES.has(addressKey.slice(0, addressKey.lastIndexOf('@')).split('+')[0]!)

export interface OddVerdict { way: Exclude<OddWay, 'take'>, problem: string }

/** What is said to a visitor with such an address; null where it is taken as it is. The stricter of two words counts. */
export function oddVerdict(addressKey: string, rule: OddAddressRule, isThrowaway: boolean): OddVerdict | null {
  const domain = addressKey.slice(addressKey.lastIndexOf('@') + 1)
  const said: { way: OddWay, problem: string }[] = [
    ...isThrowaway ? [{ way: rule.throwaway, problem: rule.throwaway === 'refuse'
      ? `${domain} is a throw-away mailbox. Please use your regular address.`
      : `${domain} is a throw-away mailbox, so you could lose what you asked for. If you still want to use it, click the button again.` }] : [],
    ...isRoleAddress(addressKey) ? [{ way: rule.role, problem: rule.role === 'refuse'
      ? 'This looks like a shared mailbox. Please use your own address.'
      : 'This looks like a shared mailbox. If it is right, click the button again.' }] : [],
  ]
  const verdict = said.find(({ way }) => way === 'refuse') ?? said.find(({ way }) => way === 'warn')
  return verdict ? verdict as OddVerdict : null
}
