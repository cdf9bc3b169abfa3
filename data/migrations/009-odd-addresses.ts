import type { Migration } from './migration'

/** Addresses of a role and of throw-away domains: taken, asked about, or refused where people opt in. */
export const oddAddresses: Migration = {
  number: 9,
  name: 'odd-addresses',
  sql: `
ALTER TABLE workspace ADD COLUMN role_addresses TEXT NOT NULL DEFAULT 'warn' CHECK (role_addresses IN ('take', 'warn', 'refuse'));
ALTER TABLE workspace ADD COLUMN throwaway_addresses TEXT NOT NULL DEFAULT 'warn' CHECK (throwaway_addresses IN ('take', 'warn', 'refuse'));
`,
}
