/** Sets up PrimeVue by hand, because its styles must carry this page's number to pass the content security policy. */
import { defineNuxtPlugin } from '#imports'
import PrimeVue from 'primevue/config'
import ToastService from 'primevue/toastservice'
import ConfirmationService from 'primevue/confirmationservice'
import Tooltip from 'primevue/tooltip'
import preset from '~/look/preset'
import { styleNonce } from '~/look/nonce'

export default defineNuxtPlugin(({ vueApp }) => {
  vueApp.use(PrimeVue, {
    theme: { preset, options: { darkModeSelector: 'system' } },
    csp: { nonce: styleNonce() },
  })
  vueApp.use(ToastService)
  vueApp.use(ConfirmationService)
  vueApp.directive('tooltip', Tooltip)
})
