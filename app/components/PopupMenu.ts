/**
 * PrimeVue's popup menu, which stays beside its button while the page scrolls. As it comes it closes at any scroll of what it stands
 * in, also at one that began before it opened: the editor scrolls to the block it has just made.
 */
import { defineComponent, type ComponentOptions } from 'vue'
import Menu from 'primevue/menu'
import { ConnectedOverlayScrollHandler } from '@primevue/core/utils'

/** What of the menu is spoken to here; PrimeVue's types leave its inside out. */
interface Inside {
  target: HTMLElement | null
  overlayVisible: boolean
  scrollHandler: ConnectedOverlayScrollHandler | null
  alignOverlay: () => void
}

export default defineComponent({
  // Its items look for their styles in a parent of that name.
  name: (Menu as unknown as { name: string }).name,
  extends: Menu as unknown as ComponentOptions,
  methods: {
    bindScrollListener(this: Inside) {
      this.scrollHandler?.destroy()
      this.scrollHandler = new ConnectedOverlayScrollHandler(this.target, () => {
        if (this.overlayVisible && this.target) this.alignOverlay()
      })
      this.scrollHandler.bindScrollListener()
    },
  },
}) as typeof Menu
