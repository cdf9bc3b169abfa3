/** How the designed emails of a workspace look: its colours, type and width. Every combination that is kept can be read. */
import { color, lab } from 'd3'
import { day, night, type as families } from '../theme/tokens'

export const LOOK_FONTS = {
  plain: { name: 'Plain', family: families.plain },
  bookish: { name: 'Bookish', family: "Georgia, 'Times New Roman', serif" },
  round: { name: 'Round', family: "'Trebuchet MS', Verdana, sans-serif" },
  wide: { name: 'Wide', family: "Verdana, 'DejaVu Sans', sans-serif" },
} as const
export type LookFont = keyof typeof LOOK_FONTS

export const LOOK_WIDTHS = { narrow: 520, usual: 600, wide: 680 } as const
/** Of buttons and pictures, in pixels. */
export const LOOK_CORNERS = { square: 0, soft: 6, round: 24 } as const

/** Colours as `#1F2B2A`. `ground` is around the email, `paper` under its words, `accent` that of links and buttons. */
export interface EmailLook {
  ground: string
  paper: string
  ink: string
  accent: string
  font: LookFont
  width: keyof typeof LOOK_WIDTHS
  corners: keyof typeof LOOK_CORNERS
}

export const DEFAULT_LOOK: EmailLook = {
  ground: day.paper, paper: day.paper, ink: day.ink, accent: day.door, font: 'plain', width: 'usual', corners: 'soft',
}

/** What an email is drawn with, by day or by night. */
export interface Paint {
  ground: string, paper: string, ink: string, second: string, line: string, accent: string, onAccent: string
}

/** Relative luminance, of WCAG 2.2. */
function luminance(hex: string): number {
  const { r, g, b } = color(hex)!.rgb()
  const [red, green, blue] = [r, g, b].map(part => part / 255).map(part => part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4)
  return 0.2126 * red! + 0.7152 * green! + 0.0722 * blue!
}

/** Contrast ratio of WCAG 2.2, from 1 to 21. */
export function contrastOf(one: string, other: string): number {
  const [dark, light] = [luminance(one), luminance(other)].sort((a, b) => a - b)
  return (light! + 0.05) / (dark! + 0.05)
}

/** What text must have: WCAG 2.2, success criterion 1.4.3. */
export const LEAST_CONTRAST = 4.5

export interface LookProblem { field: 'ink' | 'accent', problem: string }

/** What cannot be read as it is. */
export function problemsOfLook({ ink, accent, paper }: EmailLook): LookProblem[] {
  const say = (field: LookProblem['field'], what: string, value: string): LookProblem[] => {
    const contrast = contrastOf(value, paper)
    if (contrast >= LEAST_CONTRAST) return []
    const told = `${what} are hard to read: the contrast is ${Math.floor(contrast * 10) / 10}, and ${LEAST_CONTRAST} is the least.`
    return [{ field, problem: `${told} Choose colours that are further apart.` }]
  }
  return [...say('ink', 'Words on the paper', ink), ...say('accent', 'Links on the paper', accent)]
}

/** A colour between two, so many hundredths of the way. */
function between(from: string, to: string, part: number): string {
  const [a, b] = [lab(from), lab(to)]
  return lab(a.l + (b.l - a.l) * part, a.a + (b.a - a.a) * part, a.b + (b.b - a.b) * part).formatHex().toUpperCase()
}

/** The nearest to `colour` on the way to `to` that can be read on the paper. */
function readable(colour: string, to: string, paper: string): string {
  for (let part = 0; part < 1; part += 0.05) {
    const next = between(colour, to, part)
    if (contrastOf(next, paper) >= LEAST_CONTRAST) return next
  }
  return to
}

const onTop = (ground: string): string => contrastOf('#FFFFFF', ground) >= LEAST_CONTRAST ? '#FFFFFF' : '#000000'

export function dayOf(look: EmailLook): Paint {
  const { ground, paper, ink, accent } = look
  const isOurs = paper === DEFAULT_LOOK.paper && ink === DEFAULT_LOOK.ink
  return {
    ground, paper, ink, accent, onAccent: onTop(accent),
    second: isOurs ? day.inkSecond : readable(between(ink, paper, 0.4), ink, paper),
    line: isOurs ? day.line : between(paper, ink, 0.2),
  }
}

/** Mail programs that are dark keep the accent, as light as it must be there. */
export function nightOf({ accent }: EmailLook): Paint {
  const light = accent === DEFAULT_LOOK.accent ? night.door : readable(accent, '#FFFFFF', night.paper)
  return {
    ground: night.paper, paper: night.paper, ink: night.ink, second: night.inkSecond, line: night.line, accent: light,
    onAccent: accent === DEFAULT_LOOK.accent ? night.doorText : onTop(light),
  }
}

/** Typed by hand: nothing of the workspace's look, and what any mail program would write with. */
export const LETTER_LOOK: EmailLook = {
  ground: '#FFFFFF', paper: '#FFFFFF', ink: '#1A1A1A', accent: '#1A4FA0', font: 'plain', width: 'wide', corners: 'square',
}

/** Empty for what it is from the beginning; so emails that were made before there was a look are as they would be. */
export const markOfLook = (look: EmailLook): string => JSON.stringify(look) === JSON.stringify(DEFAULT_LOOK) ? '' : JSON.stringify(look)
