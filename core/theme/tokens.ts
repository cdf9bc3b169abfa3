/** The one place for colours, sizes and type: the application, the public pages and the emails all read these. */

export const day = {
  ceiling: '#E4EEEE', paper: '#FFFFFF', rail: '#F2F7F7',
  line: '#C6D5D6', lineLight: '#E1EAEA',
  ink: '#1F2B2A', inkSecond: '#566260', inkThird: '#7E8885',
  dusk: '#1D2C3C', duskLine: '#26384B', duskText: '#DCE6EA', duskSecond: '#9FB2BF',
  door: '#20506B', doorHover: '#173D53', doorText: '#FFFFFF',
  spruce: '#1E5F54', spruceGround: '#DFEFEA',
  lamp: '#E9A23B', lampGround: '#FCF0DA', lampText: '#7A4B00', lampLine: '#EFD9AF',
  brick: '#A8432F', brickHover: '#8C3525', brickGround: '#F8E6E0',
  railWood: '#8A7A62',
  /** What is around the thing that keys go to: the lamp, dark enough to be told from every ground. */
  focus: '#BB7205',
} as const

/** Night porch: the same names, so that nothing but the values changes. */
export const night: Record<keyof typeof day, string> = {
  ceiling: '#141E27', paper: '#1C2833', rail: '#18232D',
  line: '#35475A', lineLight: '#283744',
  ink: '#E8EFEF', inkSecond: '#AFBEC2', inkThird: '#8496A0',
  dusk: '#0D151D', duskLine: '#16222D', duskText: '#DCE6EA', duskSecond: '#9FB2BF',
  door: '#7FB9D6', doorHover: '#9CCBE3', doorText: '#0D1A22',
  spruce: '#7CC7B4', spruceGround: '#1D3A35',
  lamp: '#E9A23B', lampGround: '#3A2D16', lampText: '#F2C87E', lampLine: '#5B4724',
  brick: '#EE9A86', brickHover: '#F5B3A3', brickGround: '#43251E',
  railWood: '#8A7A62',
  focus: '#E9A23B',
}

/** The colours of what is sent, the same everywhere; which kind has which, and its shape, says core/sending/kinds. */
export const sendColours = {
  course: { day: '#3F7D4E', night: '#7FBF8C' },
  broadcast: { day: '#2F6C9E', night: '#86B9E0' },
} as const

export type SendColour = keyof typeof sendColours

export const type = {
  heading: "'Bricolage Grotesque Variable', 'Segoe UI', system-ui, sans-serif",
  body: "'Atkinson Hyperlegible Next Variable', 'Segoe UI', system-ui, sans-serif",
  mono: "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace",
  /** Emails carry no fonts of their own: they stay light and read well everywhere. */
  plain: "'Segoe UI', 'Helvetica Neue', Arial, sans-serif",
} as const
