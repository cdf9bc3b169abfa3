/**
 * How PrimeVue's controls look, as one stylesheet that is made when the application is built. PrimeVue would work it out from the preset in
 * every browser anew, while the first screen waits.
 */
import { Theme } from '@primeuix/styled'
import BaseStyle from '@primevue/core/base/style'
import preset from './app/theme/preset'

interface Dressed { getThemeStyleSheet(): string }

/** What stands between the tags of PrimeVue's style elements. */
const textOf = (elements: string) => [...elements.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/g)].map(([, text]) => text).join('\n')

/** The styles of all controls of the preset, by the scheme that the reader's system has. */
export async function controlsCss(): Promise<string> {
  Theme.setTheme({ preset, options: { darkModeSelector: 'system' } })
  const names = Object.keys(preset.components)
  const styles = await Promise.all(names.map(async name => (await import(`primevue/${name}/style`) as { default: Dressed }).default))
  return [BaseStyle.getCommonThemeStyleSheet(), BaseStyle.getThemeStyleSheet(), ...styles.map(style => style.getThemeStyleSheet())]
    .map(textOf).join('\n')
}
