/**
 * PrimeVue's dialog, which gives the focus away once it has come in, but not if somebody is in it by then: who is quick has tabbed to the
 * second field while it moved, and would type into the first.
 */
import { defineComponent, type ComponentOptions } from 'vue'
import Dialog from 'primevue/dialog'

/** What of the dialog is spoken to here; PrimeVue's types leave its inside out. */
interface Inside { container: HTMLElement | null }
const whole = Dialog as unknown as ComponentOptions & { methods: { focus(this: Inside): void } }

export default defineComponent({
  // Its styles and its parts are found by that name.
  name: whole.name,
  extends: whole,
  methods: {
    focus(this: Inside) {
      if (!this.container?.contains(document.activeElement)) whole.methods.focus.call(this)
    },
  },
}) as typeof Dialog
