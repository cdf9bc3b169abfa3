/** Addresses, countries and time zones against what others publish. */
import { isRoleAddress } from '#core/people/oddAddress'
import { describe, expect, it } from 'vitest'
import { iso31661 } from 'iso-3166'
import isemail from 'isemail'
import { allCountries, readCountry, USUAL_CONSENT_COUNTRIES } from '#core/people/country'
import { checkAddress } from '#core/people/address'
import { isZone } from '#core/time/zone'

describe('addresses', () => {
  it.each([
    // RFC 5322 appendix A.1 to A.5, RFC 3696 section 3 with its errata 1690, RFC 6531 section 1: from memory.
    'jdoe@machine.example', 'mary@x.test', 'john.q.public@example.com', 'sysservices@example.net', 'one@y.test',
    'user+mailbox@example.com', 'customer/department=shipping@example.com', '$A12345@example.com',
    '!def!xyz%abc@example.com', '_somename@example.com',
    'Pelé@example.com', 'δοκιμή@παράδειγμα.δοκιμή', '我買@屋企.香港', 'чебурашка@ящик-с-апельсинами.рф', 'संपर्क@डाटामेल.भारत',
    // RFC 5321 section 4.5.3.1: 64 octets before the @, 255 after; 254 in all by RFC 3696 errata 1690.
    `${'a'.repeat(64)}@example.com`, `a@${'b'.repeat(63)}.example.com`,
  ])('%s is taken', address => expect(checkAddress(address)).toMatchObject({ ok: true }))

  it.each([
    ['Abc.example.com', 'An email address has an @ in the middle, like ada@example.com.'],
    ['A@b@c@example.com', 'An email address has only one @.'],
    ['a"b(c)d,e:f;g<h>i[j\\k]l@example.com', 'There is a comma in this address. Did you mean a dot?'],
    ['just"not"right@example.com', '“just"not"right” cannot be used before the @. Use letters, digits and . _ + -'],
    ['this is"not\\allowed@example.com', 'An email address has no spaces in it.'],
    ['.first@example.com', 'Before the @, a dot cannot be first, last or next to another dot.'],
    ['two..dots@example.com', 'Before the @, a dot cannot be first, last or next to another dot.'],
    ['trailing.@example.com', 'Before the @, a dot cannot be first, last or next to another dot.'],
    ['a@example..com', 'After the @, a dot cannot be first, last or next to another dot.'],
    ['a@-example.com', '“-example” cannot be used after the @.'],
    ['a@example-.com', '“example-” cannot be used after the @.'],
    ['@example.com', 'Something is missing before the @. Type it like ada@example.com.'],
    ['a@', 'Something is missing after the @. Type it like ada@example.com.'],
    [`${'a'.repeat(65)}@example.com`, 'This address is too long.'],
    [`a@${'b'.repeat(64)}.com`, `“${'b'.repeat(64)}” cannot be used after the @.`],
    ['a@192.0.2.1', 'After the @ comes a domain, like example.com, not a number.'],
    // Legal on paper (RFC 5321 section 4.1.2 quoted strings and 4.1.3 address literals), refused here: robots use them, people do not.
    ['"john doe"@example.com', 'An email address has no spaces in it.'],
    ['jsmith@[192.168.2.1]', '“[192” cannot be used after the @.'],
    ['admin@mailserver1', 'After the @ comes a full domain, like mailserver1.com.'],
  ])('%s is refused in words', (address, problem) => expect(checkAddress(address)).toEqual({ ok: false, problem }))

  it('whatever is taken is an address to a validator of another author (RFC 5321, 5322, 6531), too', () => {
    const parts = ['a', 'A.b', 'x+y', 'é', '!#$', 'a-b', '0', '_'].flatMap(local =>
      ['example.com', 'EXAMPLE.co.uk', 'xn--bcher-kva.example', 'bücher.example', 'a-1.example'].map(domain => `${local}@${domain}`))
    for (const address of parts) {
      expect(checkAddress(address).ok, address).toBe(true)
      expect(isemail.validate(address), address).toBe(true)
    }
  })

  it('are one and the same without case, and shown as typed but for the domain', () => {
    expect(checkAddress('Ada.L@EXAMPLE.com')).toEqual({ ok: true, address: { shown: 'Ada.L@example.com', key: 'ada.l@example.com' } })
  })
})

describe('countries, ISO 3166-1', () => {
  it('are those of a list of another author, and Kosovo by its user-assigned code', () => {
    expect(allCountries().map(({ code }) => code).sort()).toEqual(
      [...iso31661.filter(({ state }) => state === 'assigned').map(({ alpha2 }) => alpha2), 'XK'].sort(),
    )
  })

  it('are read from what people write', () => {
    for (const { code, name } of allCountries()) expect([readCountry(code.toLowerCase()), readCountry(name)], name).toEqual([code, code])
    expect([readCountry(' the netherlands '), readCountry('Cote d’Ivoire'), readCountry('Türkiye'), readCountry('Atlantis')]).toEqual([
      'NL', 'CI', 'TR', null,
    ])
  })

  it('the usual set for consent is the European Economic Area, the United Kingdom, Switzerland and Canada (from memory)', () => {
    expect(USUAL_CONSENT_COUNTRIES).toHaveLength(27 + 3 + 1 + 1 + 1)
    for (const code of USUAL_CONSENT_COUNTRIES) expect(allCountries().some(country => country.code === code), code).toBe(true)
  })
})

it('time zones are those of the IANA database as Node carries it, and nothing else', () => {
  const zones = Intl.supportedValuesOf('timeZone')
  expect(zones.length).toBeGreaterThan(400)
  for (const zone of zones) expect(isZone(zone), zone).toBe(true)
  for (const zone of ['Europe/Atlantis', 'GMT+25', '', 'Lisbon', '../etc/passwd']) expect(isZone(zone), zone).toBe(false)
})

// RFC 2142, sections 3 to 6: mailbox names for common services, roles and functions. The list is from memory.
it.each([
  'info', 'marketing', 'sales', 'support', 'abuse', 'noc', 'security', 'postmaster', 'hostmaster', 'usenet', 'news', 'webmaster', 'www',
  'uucp', 'ftp',
])('%s@ is the address of a role', (name) => {
  expect([
    isRoleAddress(`${name}@example.com`), isRoleAddress(`${name}+x@example.com`), isRoleAddress(`${name}a@example.com`),
    isRoleAddress(`a@${name}.example.com`),
  ]).toEqual([true, true, false, false])
})
