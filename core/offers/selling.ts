/** Which offers an email sells: those whose page one of its links leads to. */
import { slugAt } from '#core/page/address'

/** The end of the address of the offer's page that a link leads to, on this site; null for any other link. */
export const slugSoldBy = (url: string, baseUrl: string): string | null => slugAt(url, baseUrl, 's')
