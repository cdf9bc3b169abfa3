/** Nobody sees a screen without being signed in. */
import { defineNuxtRouteMiddleware, navigateTo } from '#imports'
import { api } from '~/composables/useApi'
import { useFrame } from '~/stores/frame'

let known = false

export default defineNuxtRouteMiddleware(async (to) => {
  if (to.path === '/sign-in') {
    known = false
    return
  }
  if (known) return
  const { signedIn } = await api('GET /session')
  if (!signedIn) return navigateTo({ path: '/sign-in', query: to.fullPath === '/' ? {} : { to: to.fullPath } })
  await useFrame().enter()
  known = true
})
