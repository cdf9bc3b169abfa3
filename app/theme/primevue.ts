/**
 * PrimeVue as we set it up. Its styles come from nuxt.controls.ts; the few it still adds itself carry this page's nonce, as the content
 * security policy requires. It also needs some help with accessibility.
 */
import type { App } from 'vue'
import * as controls from '@primevue/core/basecomponent'
import PrimeVue, { defaultOptions } from 'primevue/config'
import ToastService from 'primevue/toastservice'
import ConfirmationService from 'primevue/confirmationservice'
import { styleNonce } from './nonce'

/** The component that all controls extend. PrimeVue has no type for it. */
const all = (controls as unknown as { default: { methods: object } }).default

/**
 * PrimeVue marks the ends of a dialog with elements that take the focus and
 * pass it on, and hides them from assistive technology at the same time. What
 * takes the focus must not be hidden, so they are mended as they appear. And it
 * says "null" of a number field that was left without a number, where there is
 * nothing to say.
 */
function mendForAssistiveTechnology() {
  const mendEnds = (root: ParentNode) => {
    for (const end of root.querySelectorAll('.p-hidden-focusable[aria-hidden]')) {
      end.removeAttribute('aria-hidden')
      end.removeAttribute('role')
    }
  }
  new MutationObserver((changes) => {
    for (const { type, target, addedNodes } of changes) {
      if (type === 'attributes') {
        if (target instanceof Element && target.getAttribute('aria-valuenow') === 'null') target.removeAttribute('aria-valuenow')
      }
      for (const node of addedNodes) if (node instanceof Element) mendEnds(node.parentElement ?? document)
    }
  }).observe(document.body, { childList: true, subtree: true, attributeFilter: ['aria-valuenow'] })
}

export function setUpPrimeVue(app: App): void {
  // Nobody changes the theme here. Listening for that makes all controls load their styles again whenever another one is drawn.
  Object.assign(all.methods, { _themeChangeListener() {} })
  app.use(PrimeVue, {
    theme: 'none',
    csp: { nonce: styleNonce() },
    // Weeks begin on Monday, as they do in the painted week of sending hours.
    locale: { ...defaultOptions.locale, firstDayOfWeek: 1 },
  })
  app.use(ToastService)
  app.use(ConfirmationService)
  mendForAssistiveTechnology()
}
