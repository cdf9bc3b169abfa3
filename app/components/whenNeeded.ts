/** A part of a screen that is large and stands behind something: the screen is there before the part has come. */
import { defineAsyncComponent, type Component } from 'vue'
import NotLoaded from './NotLoaded.vue'

const TRIES = 2

/** Asked for once more where the way to it was broken for a moment; where it cannot be had, that is said in its place. */
export const whenNeeded = <Part extends Component>(loader: () => Promise<{ default: Part }>) => defineAsyncComponent({
  loader, errorComponent: NotLoaded, onError: (_, retry, fail, tries) => tries < TRIES ? retry() : fail(),
})
