/**
 * Contrast of every pair of tokens that is used for text and what it stands on.
 *
 * Source: WCAG 2.2, success criterion 1.4.3 (4.5 to 1 for text, 3 to 1 for
 * large text) and 1.4.11 (3 to 1 for what a control is told by); the formula is
 * that of "relative luminance" and "contrast ratio" in its glossary.
 */
import { describe, expect, it } from 'vitest'
import { day, night, sendColours } from '#core/theme/tokens'
import { PAGE_COLOURS, PAGE_NIGHTS, type PageColours } from '#core/page/theme'
import { publicCss } from '#core/page/style'

function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map(at => parseInt(hex.slice(at, at + 2), 16) / 255)
    .map(part => part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4)
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!
}
function contrast(one: string, other: string): number {
  const [light, dark] = [luminance(one), luminance(other)].sort((a, b) => b - a)
  return (light! + 0.05) / (dark! + 0.05)
}

type Token = keyof typeof day
const TEXT: [text: Token, grounds: Token[]][] = [
  ['ink', ['ceiling', 'paper', 'rail', 'lineLight']],
  ['inkSecond', ['ceiling', 'paper', 'rail', 'lineLight']],
  ['door', ['ceiling', 'paper', 'rail']],
  ['spruce', ['ceiling', 'paper', 'rail', 'spruceGround']],
  ['brick', ['ceiling', 'paper', 'brickGround']],
  ['lampText', ['lampGround', 'paper']],
  ['doorText', ['door', 'doorHover', 'brick', 'brickHover']],
  ['duskText', ['dusk', 'duskLine']],
  ['duskSecond', ['dusk', 'duskLine']],
]

it('the formula gives the values its source names: black on white is 21, a colour on itself 1', () => {
  expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21, 5)
  expect(contrast('#20506B', '#20506B')).toBe(1)
  expect(contrast('#777777', '#FFFFFF')).toBeCloseTo(4.48, 2) // the grey that just fails, from memory
})

describe.each([['day', day], ['night', night]] as const)('by %s', (_theme, colours) => {
  it.each(TEXT.flatMap(([text, grounds]) => grounds.map(ground => [text, ground] as const)))('%s can be read on %s', (text, ground) => {
    expect(contrast(colours[text], colours[ground])).toBeGreaterThanOrEqual(4.5)
  })

  // 2.4.13 asks for as much of what shows the focus.
  it('what shows the focus can be told from whatever it stands on', () => {
    for (const ground of ['rail', 'paper', 'ceiling', 'dusk', 'duskLine'] as const) {
      expect(contrast(colours.focus, colours[ground]), ground).toBeGreaterThanOrEqual(3)
    }
  })

  it('the edge of an input, and what is sent, can be told from their ground', () => {
    expect(contrast(colours.inkThird, colours.paper)).toBeGreaterThanOrEqual(3)
    const course = colours === day ? sendColours.course.day : sendColours.course.night
    for (const ground of ['rail', 'paper', 'ceiling'] as const) expect(contrast(course, colours[ground])).toBeGreaterThanOrEqual(3)
  })
})

/** Of the looks of public pages: what is written, and on what. */
type PageToken = Exclude<keyof PageColours, 'name'>
const PAGE_TEXT: [text: PageToken, grounds: PageToken[]][] = [
  ['ink', ['paper', 'wash']],
  ['second', ['paper', 'wash', 'ground']],
  ['accent', ['paper', 'wash']],
  ['onAccent', ['accent', 'accentDark']],
]

/** By day, and by night for visitors whose device is dark. Each with what is wrong as it is drawn there. */
const LOOKS: [string, Omit<PageColours, 'name'>, RegExp][] = [
  ...(Object.entries(PAGE_COLOURS) as [string, PageColours][]).map(([name, colours]): typeof LOOKS[number] =>
    [name, colours, new RegExp(`\\.colour-${name} \\.problem\\{color:(#[0-9A-Fa-f]{6})\\}`)]),
  ...Object.entries(PAGE_NIGHTS).map(([name, colours]): typeof LOOKS[number] =>
    [`${name} by night`, colours, /prefers-color-scheme:dark.*\.night \.problem\{color:(#[0-9A-Fa-f]{6})\}/]),
]

describe.each(LOOKS)('the look %s', (_name, colours, problems) => {
  it.each(
    PAGE_TEXT.flatMap(([text, grounds]) => grounds.map(ground => [text, ground] as const)),
  )('%s can be read on %s', (text, ground) => {
    expect(contrast(colours[text], colours[ground])).toBeGreaterThanOrEqual(4.5)
  })

  it('fields, buttons and what is wrong are told from the page', () => {
    // The border of a field is drawn in the colour of small print.
    expect(contrast(colours.second, colours.paper)).toBeGreaterThanOrEqual(3)
    // The outline of what has the focus, too, stands on the paper in the accent.
    expect(contrast(colours.accent, colours.paper)).toBeGreaterThanOrEqual(3)
    expect(publicCss).toContain(':focus-visible{outline:3px solid var(--accent);outline-offset:2px}')
    expect(contrast(problems.exec(publicCss)?.[1] ?? day.brick, colours.paper)).toBeGreaterThanOrEqual(4.5)
    // The band at the top and the edge of the page.
    expect(contrast(colours.ink, colours.ground)).toBeGreaterThanOrEqual(4.5)
  })
})
