/**
 * The styles of PrimeVue's controls as one stylesheet, made when the application is built. PrimeVue would otherwise derive them from the
 * preset in every browser, before the first screen can appear.
 */
import { Theme } from '@primeuix/styled'
import BaseStyle from '@primevue/core/base/style'
import Aura from './app/theme/aura'
import preset from './app/theme/preset'

/** As PrimeVue has them; it has no types for them. */
interface Styles { getThemeStyleSheet(): string, getCommonThemeStyleSheet(): string }

/** The text of PrimeVue's style elements, without their tags. */
const textOf = (elements: string) => [...elements.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/g)].map(([, text]) => text).join('\n')

/** The styles of all controls in the preset, for light and dark systems. */
export async function controlsCss(): Promise<string> {
  Theme.setTheme({ preset, options: { darkModeSelector: 'system' } })
  const base = BaseStyle as unknown as Styles
  const controls = await Promise.all(Object.keys(Aura.components).map(async name =>
    (await import(`primevue/${name}/style`) as { default: Styles }).default))
  return [base.getCommonThemeStyleSheet(), ...[base, ...controls].map(styles => styles.getThemeStyleSheet())].map(textOf).join('\n')
}
