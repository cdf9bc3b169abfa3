/**
 * PrimeVue comes beside the first screen, not before it: asked for at once, and waited for only when the screen is there. A plugin of its
 * own, which nothing else waits for.
 */
import { defineNuxtPlugin } from '#imports'

const coming = import('~/theme/primevue')

export default defineNuxtPlugin(async ({ vueApp }) => {
  const { setUpPrimeVue } = await coming
  setUpPrimeVue(vueApp)
})
