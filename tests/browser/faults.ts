/** What axe-core finds wrong with a page. */
import { createRequire } from 'node:module'
import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import type axe from 'axe-core'

/** It keeps the private fields of its colours in WeakMaps, a sixth of every look; on the objects themselves they are found at once. */
const FIELDS = `class {
  key = Symbol()
  has(of) { return Object.hasOwn(of, this.key) }
  get(of) { return of[this.key] }
  set(of, value) { of[this.key] = value; return this }
}`
/** The small one: it is read in again by each page. */
const SOURCE = `(WeakMap => {${readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')}
})(${FIELDS})`

export interface Looked {
  /** These rules only, or those with these tags; all of axe-core’s usual ones otherwise. */
  rules?: string[], tags?: string[]
  /** Selectors of what is left out. */
  except?: string[]
}

interface Colour { r: number, g: number, b: number, alpha: number }
interface Colours { Color: { new (of: Colour): Colour, prototype: Colour & { parseString(text: string): Colour } } }

/** Runs in the page. Reading the same few colours for each of its texts would take a sixth of every look. */
function rememberColours(): void {
  const { Color } = (window as unknown as { axe: { commons: { color: Colours } } }).axe.commons.color
  const { parseString } = Color.prototype
  const known = new Map<string, Colour>()
  Color.prototype.parseString = function (text) {
    const was = known.get(text)
    if (!was) known.set(text, new Color(parseString.call(this, text)))
    else [this.r, this.g, this.b, this.alpha] = [was.r, was.g, was.b, was.alpha]
    return this
  }
}

/**
 * Each fault with its elements; none is an empty list. What frames show is left out: nothing may run in them, and it is looked over as a
 * page of its own.
 */
export async function faultsOf(page: Page, { rules, tags, except = [] }: Looked = {}): Promise<string[]> {
  if (!await page.evaluate(() => 'axe' in window)) {
    await page.evaluate(SOURCE)
    await page.evaluate(rememberColours)
  }
  return page.evaluate(async ({ rules, tags, exclude }) => {
    const { axe: looker } = window as unknown as { axe: typeof axe }
    // What passes need not be told in full, which takes longest on a screen with a long table.
    const { violations } = await looker.run(exclude.length > 0 ? { exclude } : document, {
      resultTypes: ['violations'], iframes: false, ...rules && { runOnly: { type: 'rule', values: rules } },
      ...tags && { runOnly: { type: 'tag', values: tags } },
    })
    return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join(' ')}`)
  }, { rules, tags, exclude: except.map(one => [one]) })
}
