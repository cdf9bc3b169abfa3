/** What the screens of pages and offers share: the page to be written in, and what stands beside it. */
import { computed, ref, type Ref } from 'vue'
import type { PictureView } from '#core/page/picture'
import { useFrame } from '~/stores/frame'

export type PageSide = 'sections' | 'theme' | 'phone'
export const PAGE_SIDES: readonly { value: PageSide, name: string }[] = [
  { value: 'sections', name: 'Sections' }, { value: 'theme', name: 'Look' }, { value: 'phone', name: 'On a phone' },
]

export function usePageSide(view: Ref<{ pictures: PictureView[] } | null>) {
  const frame = useFrame()
  /** Those the server told of, and those brought in since. */
  const brought = ref<PictureView[]>([])
  const pictures = computed(() =>
    [...new Map([...view.value?.pictures ?? [], ...brought.value].map(picture => [picture.id, picture])).values()])
  /** The section that is being looked at. */
  const chosen = ref<string | null>(null)
  const side = ref<PageSide>('sections')
  /** Whose page it is, as far as its maker needs to see. */
  const face = computed(() => ({
    senderName: frame.frame?.workspace.name ?? '', postalAddress: '', files: { css: '/canvas.css', script: null },
  }))
  const path = (to: string) => `${frame.mode === 'practice' ? '/practice' : ''}${to}`

  /** Brings into view what still wants something. */
  function goTo(field: string, sections: readonly { id: string }[]) {
    side.value = 'sections'
    if (sections.some(({ id }) => id === field)) chosen.value = field
  }
  return { pictures, bring: (picture: PictureView) => brought.value.push(picture), chosen, side, face, path, goTo }
}
