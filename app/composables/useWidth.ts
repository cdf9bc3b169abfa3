/** How wide a drawing may be: as wide as what it stands in, but never narrower than it can be read. */
import { computed, type ComputedRef, type Ref } from 'vue'
import { useElementSize } from '@vueuse/core'

/** In pixels; `before` is what it is taken for until it is drawn. */
export function useWidth(box: Ref<HTMLElement | undefined>, { least, before }: { least: number, before: number }): ComputedRef<number> {
  const { width } = useElementSize(box, { width: before, height: 0 })
  return computed(() => Math.max(least, width.value))
}
