/**
 * The styles of PrimeVue's controls as one stylesheet, made when the application is built. PrimeVue would otherwise derive them from the
 * preset in every browser, before the first screen can appear.
 */
import { Theme } from '@primeuix/styled'
import BaseStyle from '@primevue/core/base/style'
import preset from './app/theme/preset'

interface StyleOfControl { getThemeStyleSheet(): string }

/** The text of PrimeVue's style elements, without their tags. */
const textOf = (elements: string) => [...elements.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/g)].map(([, text]) => text).join('\n')

/** The styles of all controls in the preset, for light and dark systems. */
export async function controlsCss(): Promise<string> {
  Theme.setTheme({ preset, options: { darkModeSelector: 'system' } })
  const names = Object.keys(preset.components)
  const styles = await Promise.all(names.map(async name => (await import(`primevue/${name}/style`) as { default: StyleOfControl }).default))
  return [BaseStyle.getCommonThemeStyleSheet(), BaseStyle.getThemeStyleSheet(), ...styles.map(style => style.getThemeStyleSheet())]
    .map(textOf).join('\n')
}
