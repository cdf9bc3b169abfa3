/** The editors of rich text come when one is opened: what they are made of is as large as everything else of a screen together. */
import { defineAsyncComponent } from 'vue'

export const RichEditor = defineAsyncComponent(() => import('~/components/RichEditor.vue'))
export const LineEditor = defineAsyncComponent(() => import('~/components/LineEditor.vue'))
