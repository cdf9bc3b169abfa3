/** PrimeVue's look, from the tokens: every colour of a control is one of ours. */
import { definePreset } from '@primeuix/themes'
import { day, night, sendColours, type SendColour } from '#core/theme/tokens'
import Aura from './aura'

type Colours = Record<keyof typeof day, string>

/** PrimeVue counts surfaces from the lightest; where its dark theme takes a ground, it takes a high number. */
const daySurface = (c: Colours) => ({
  0: c.paper, 50: c.rail, 100: c.lineLight, 200: c.lineLight, 300: c.line, 400: c.inkThird, 500: c.inkSecond,
  600: c.inkSecond, 700: c.inkSecond, 800: c.ink, 900: c.ink, 950: c.ink,
})
const nightSurface = (c: Colours) => ({
  0: c.ink, 50: c.ink, 100: c.ink, 200: c.ink, 300: c.inkSecond, 400: c.inkSecond, 500: c.inkThird,
  600: c.line, 700: c.line, 800: c.lineLight, 900: c.paper, 950: c.ceiling,
})

const coloursOfSends = (by: 'day' | 'night') =>
  Object.fromEntries(Object.entries(sendColours).map(([name, colour]) => [name, colour[by]])) as Record<SendColour, string>

const scheme = (c: Colours, surface: Record<number, string>, send: Record<SendColour, string>) => ({
  porch: c,
  send,
  surface,
  primary: { color: c.door, contrastColor: c.doorText, hoverColor: c.doorHover, activeColor: c.doorHover },
  highlight: { background: c.rail, focusBackground: c.lineLight, color: c.ink, focusColor: c.ink },
  text: { color: c.ink, hoverColor: c.ink, mutedColor: c.inkSecond, hoverMutedColor: c.ink },
  content: { background: c.paper, hoverBackground: c.rail, borderColor: c.line, color: c.ink, hoverColor: c.ink },
  formField: {
    background: c.paper, borderColor: c.inkThird, hoverBorderColor: c.inkSecond, focusBorderColor: c.door, invalidBorderColor: c.brick,
    color: c.ink, placeholderColor: c.inkSecond, invalidPlaceholderColor: c.brick, disabledBackground: c.rail, disabledColor: c.inkSecond,
    shadow: 'none',
  },
  overlay: {
    select: { background: c.paper, borderColor: c.line, color: c.ink },
    popover: { background: c.paper, borderColor: c.line, color: c.ink },
    modal: { background: c.paper, borderColor: c.line, color: c.ink },
  },
})

const toast = (c: Colours, background: string, color: string) => ({
  background, color, borderColor: c.line, detailColor: c.ink, shadow: '0 4px 16px rgb(29 44 60 / 14%)',
  closeButton: { hoverBackground: 'transparent', focusRing: { color, shadow: 'none' } },
})

/** What deletes or ends something. */
const danger = (c: Colours) => ({
  background: c.brick, hoverBackground: c.brickHover, activeBackground: c.brickHover, borderColor: c.brick, hoverBorderColor: c.brickHover,
  activeBorderColor: c.brickHover, color: c.doorText, hoverColor: c.doorText, activeColor: c.doorText,
})

export default definePreset(Aura, {
  primitive: { borderRadius: { none: '0', xs: '4px', sm: '6px', md: '6px', lg: '8px', xl: '8px' } },
  semantic: {
    focusRing: { width: '2px', style: 'solid', color: '{porch.focus}', offset: '2px', shadow: 'none' },
    formField: { paddingX: '10px', paddingY: '7px', borderRadius: '6px' },
    colorScheme: {
      light: scheme(day, daySurface(day), coloursOfSends('day')),
      dark: scheme(night, nightSurface(night), coloursOfSends('night')),
    },
  },
  components: {
    button: {
      root: { paddingX: '14px', paddingY: '8px', borderRadius: '6px', label: { fontWeight: '600' } },
      colorScheme: {
        light: { root: { secondary: {
          background: day.paper, hoverBackground: day.rail, activeBackground: day.rail, borderColor: day.line,
          hoverBorderColor: day.inkThird, activeBorderColor: day.inkThird, color: day.ink, hoverColor: day.ink, activeColor: day.ink,
        }, danger: danger(day) } },
        dark: { root: { secondary: {
          background: night.paper, hoverBackground: night.line, activeBackground: night.line, borderColor: night.line,
          hoverBorderColor: night.inkThird, activeBorderColor: night.inkThird, color: night.ink, hoverColor: night.ink,
          activeColor: night.ink,
        }, danger: danger(night) } },
      },
    },
    toast: {
      root: { width: '340px' },
      colorScheme: {
        light: { success: toast(day, day.spruceGround, day.spruce), error: toast(day, day.brickGround, day.brick) },
        dark: { success: toast(night, night.spruceGround, night.spruce), error: toast(night, night.brickGround, night.brick) },
      },
    },
    dialog: { header: { padding: '18px 22px 8px' }, content: { padding: '0 22px 16px' }, footer: { padding: '8px 22px 18px' } },
  },
})
