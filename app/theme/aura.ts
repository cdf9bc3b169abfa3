/**
 * Of PrimeVue's theme what its controls here need: whole, it would be a third of what a browser loads first. A test says which those are.
 */
import base from '@primeuix/themes/aura/base'
import autocomplete from '@primeuix/themes/aura/autocomplete'
import badge from '@primeuix/themes/aura/badge'
import button from '@primeuix/themes/aura/button'
import checkbox from '@primeuix/themes/aura/checkbox'
import chip from '@primeuix/themes/aura/chip'
import confirmdialog from '@primeuix/themes/aura/confirmdialog'
import css from '@primeuix/themes/aura/css'
import datepicker from '@primeuix/themes/aura/datepicker'
import dialog from '@primeuix/themes/aura/dialog'
import iconfield from '@primeuix/themes/aura/iconfield'
import inputnumber from '@primeuix/themes/aura/inputnumber'
import inputtext from '@primeuix/themes/aura/inputtext'
import menu from '@primeuix/themes/aura/menu'
import multiselect from '@primeuix/themes/aura/multiselect'
import popover from '@primeuix/themes/aura/popover'
import progressbar from '@primeuix/themes/aura/progressbar'
import radiobutton from '@primeuix/themes/aura/radiobutton'
import ripple from '@primeuix/themes/aura/ripple'
import select from '@primeuix/themes/aura/select'
import selectbutton from '@primeuix/themes/aura/selectbutton'
import textarea from '@primeuix/themes/aura/textarea'
import toast from '@primeuix/themes/aura/toast'
import togglebutton from '@primeuix/themes/aura/togglebutton'
import toggleswitch from '@primeuix/themes/aura/toggleswitch'
import virtualscroller from '@primeuix/themes/aura/virtualscroller'

export default {
  ...base,
  components: {
    autocomplete, badge, button, checkbox, chip, confirmdialog, datepicker, dialog,
    iconfield, inputnumber, inputtext, menu, multiselect, popover, progressbar, radiobutton,
    ripple, select, selectbutton, textarea, toast, togglebutton, toggleswitch, virtualscroller,
  },
  // A text, whatever its types say of how it is exported.
  css: css as unknown as string,
}
