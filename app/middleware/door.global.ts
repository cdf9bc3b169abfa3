/** Nobody sees a screen without being signed in. */
import { defineNuxtRouteMiddleware, navigateTo } from '#imports'
import { BEGINNING, type Beginning } from '#core/views/frame'
import { api } from '~/composables/useApi'
import { useFrame } from '~/stores/frame'
import { mode } from '~/stores/mode'

let known = false
/** As it stood when the page was made, for the first screen. */
let beginning = JSON.parse(document.getElementById(BEGINNING)?.textContent ?? 'null') as Beginning | null

export default defineNuxtRouteMiddleware(async (to) => {
  const { signedIn = false, clocks = {} } = beginning ?? {}
  beginning = null
  if (to.path === '/sign-in') {
    known = false
    return
  }
  if (known) return
  if (!signedIn && !(await api('GET /session')).signedIn) {
    return navigateTo({ path: '/sign-in', query: to.fullPath === '/' ? {} : { to: to.fullPath } })
  }
  await useFrame().enter(mode.value, clocks[mode.value])
  known = true
})
