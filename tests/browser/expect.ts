/**
 * Playwright's `expect`, but for whether something is shown. Its own writes down the whole page whenever something is not there yet, for
 * the report of a failure: about a twentieth of what pages did in the two files it was measured in, nearly always for nothing. A test
 * that fails keeps what was there anyway.
 */
import { expect as ofPlaywright, type ExpectMatcherState, type Locator } from '@playwright/test'

interface Patience { timeout?: number }

async function becomes(
  { isNot, timeout: usual }: ExpectMatcherState, locator: Locator, state: 'visible' | 'hidden', { timeout = usual }: Patience,
) {
  if (isNot) throw new Error('Ask for the opposite, toBeVisible or toBeHidden, instead of “not”.')
  await locator.waitFor({ state, timeout })
  return { pass: true, message: () => '' }
}

export const expect = ofPlaywright.extend({
  toBeVisible(locator: Locator, patience: Patience = {}) {
    return becomes(this, locator, 'visible', patience)
  },
  toBeHidden(locator: Locator, patience: Patience = {}) {
    return becomes(this, locator, 'hidden', patience)
  },
})
