/**
 * PrimeVue's dialog sets the focus once its opening animation ends. This one leaves the focus alone if it is already inside the dialog: a
 * quick person may be typing in the second field by then.
 */
import { defineComponent, type ComponentOptions } from 'vue'
import Dialog from 'primevue/dialog'

/** The internals used here, which PrimeVue's types leave out. */
interface Inside { container: HTMLElement | null }
const whole = Dialog as unknown as ComponentOptions & { methods: { focus(this: Inside): void } }

export default defineComponent({
  // Styles and parts are looked up by this name.
  name: whole.name,
  extends: whole,
  methods: {
    focus(this: Inside) {
      if (!this.container?.contains(document.activeElement)) whole.methods.focus.call(this)
    },
  },
}) as typeof Dialog
