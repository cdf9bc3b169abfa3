/** The looks a page can have. Every one can be read: tests/reference/contrast.test.ts holds each pair of colours to WCAG 2.2. */

export interface PageColours {
  name: string
  /** Round the page, and of the page itself. */
  ground: string
  paper: string
  ink: string
  /** Small print, on paper and on the ground. */
  second: string
  line: string
  /** Of the button, links and the band at the top; and of what stands on it. */
  accent: string
  accentDark: string
  onAccent: string
  /** Behind quotes and countdowns. */
  wash: string
}

export const PAGE_COLOURS = {
  harbour: {
    name: 'Harbour', ground: '#E4EEEE', paper: '#FFFFFF', ink: '#1F2B2A', second: '#566260', line: '#C6D5D6', accent: '#20506B',
    accentDark: '#173D53', onAccent: '#FFFFFF', wash: '#F2F7F7',
  },
  heather: {
    name: 'Heather', ground: '#EEE8F1', paper: '#FFFFFF', ink: '#2B2233', second: '#645A6E', line: '#D8CCDF', accent: '#6A3F7D',
    accentDark: '#523061', onAccent: '#FFFFFF', wash: '#F8F4FA',
  },
  meadow: {
    name: 'Meadow', ground: '#E8F0E2', paper: '#FEFFFC', ink: '#202B1C', second: '#56634F', line: '#CBD8C1', accent: '#2F6B3A',
    accentDark: '#23522C', onAccent: '#FFFFFF', wash: '#F3F8EF',
  },
  brickwork: {
    name: 'Brickwork', ground: '#F5E9E1', paper: '#FFFDFB', ink: '#33231C', second: '#6D594E', line: '#E2CFC3', accent: '#9A3E27',
    accentDark: '#7A301D', onAccent: '#FFFFFF', wash: '#FBF3ED',
  },
  sand: {
    name: 'Sand', ground: '#EFE9DA', paper: '#FFFEFA', ink: '#2C281D', second: '#635C49', line: '#DBD2BA', accent: '#1E5F54',
    accentDark: '#164840', onAccent: '#FFFFFF', wash: '#F8F4E8',
  },
  evening: {
    name: 'Evening', ground: '#141E27', paper: '#1D2A36', ink: '#EAF0F0', second: '#B2C0C6', line: '#3A4C5E', accent: '#F0B356',
    accentDark: '#F6C780', onAccent: '#22190A', wash: '#253442',
  },
} as const satisfies Record<string, PageColours>
export type PageColour = keyof typeof PAGE_COLOURS

/** What they become for visitors whose device is dark, where the page's owner allows it. Evening is dark as it is. */
export const PAGE_NIGHTS: Record<PageColour, Omit<PageColours, 'name'>> = {
  harbour: {
    ground: '#141E27', paper: '#1D2A36', ink: '#EAF0F0', second: '#B2C0C6', line: '#3A4C5E', accent: '#7FB9D6', accentDark: '#9CCBE3',
    onAccent: '#0D1A22', wash: '#253442',
  },
  heather: {
    ground: '#1C1722', paper: '#272030', ink: '#F0EAF4', second: '#C3B6CC', line: '#4A3E57', accent: '#C79BDB', accentDark: '#D8B5E8',
    onAccent: '#22132B', wash: '#322A3D',
  },
  meadow: {
    ground: '#141C12', paper: '#1E291B', ink: '#EBF2E7', second: '#B5C4AD', line: '#3C4C36', accent: '#8CC795', accentDark: '#A9D9B0',
    onAccent: '#0F1F12', wash: '#283623',
  },
  brickwork: {
    ground: '#1F1613', paper: '#2B1F1A', ink: '#F6ECE6', second: '#D0BBAF', line: '#523F35', accent: '#EE9A80', accentDark: '#F5B5A1',
    onAccent: '#2A0F07', wash: '#382922',
  },
  sand: {
    ground: '#1D1A12', paper: '#29251A', ink: '#F3EFE3', second: '#C9C0A8', line: '#4C4633', accent: '#7CC7B4', accentDark: '#9DD8C9',
    onAccent: '#0C221D', wash: '#363122',
  },
  evening: PAGE_COLOURS.evening,
}

/** System letters need no download; ours is one file. */
export const PAGE_TYPES = {
  clear: {
    name: 'Clear', heading: "'Atkinson Hyperlegible Next Variable','Segoe UI',system-ui,sans-serif",
    body: "'Atkinson Hyperlegible Next Variable','Segoe UI',system-ui,sans-serif", weight: 720,
  },
  bookish: {
    name: 'Bookish', heading: "'Iowan Old Style','Palatino Linotype',Palatino,'Book Antiqua',Georgia,serif",
    body: "'Iowan Old Style','Palatino Linotype',Palatino,'Book Antiqua',Georgia,serif", weight: 600,
  },
  mixed: {
    name: 'Bookish headings', heading: "'Iowan Old Style','Palatino Linotype',Palatino,'Book Antiqua',Georgia,serif",
    body: "'Atkinson Hyperlegible Next Variable','Segoe UI',system-ui,sans-serif", weight: 600,
  },
} as const
export type PageType = keyof typeof PAGE_TYPES

/** Of the text, in CSS pixels. */
export const PAGE_WIDTHS = {
  narrow: { name: 'Narrow', px: 560 }, usual: { name: 'Usual', px: 660 }, wide: { name: 'Wide', px: 860 },
} as const
export type PageWidth = keyof typeof PAGE_WIDTHS

/** Where the first picture of a page stands on a screen that has room for it. */
export const PICTURE_PLACES = {
  inside: { name: 'Where it is in the page' }, top: { name: 'Across the top' }, left: { name: 'Beside, on the left' },
  right: { name: 'Beside, on the right' },
} as const
export type PicturePlace = keyof typeof PICTURE_PLACES

export interface PageTheme {
  type: PageType
  colour: PageColour
  width: PageWidth
  picture: PicturePlace
  /** Whether it is dark for visitors whose device is. */
  night?: boolean
}

export const newTheme = (): PageTheme => ({ type: 'clear', colour: 'harbour', width: 'usual', picture: 'inside' })

/** Of pages that no owner has designed: what readers choose, what they bought. */
export const ourTheme = (): PageTheme => ({ ...newTheme(), night: true })

/** Names of classes that carry a look. */
export const themeClasses = ({ type, colour, width, picture, night }: PageTheme): string =>
  `type-${type} colour-${colour} width-${width} picture-${picture}${night ? ' night' : ''}`
