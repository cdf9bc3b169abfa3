/** The lists and tags to choose from, and making a new one on the spot. */
import { onMounted, ref } from 'vue'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import type { ListLine, TagLine } from '#core/views/marks'
import { api } from './useApi'
import { useFrame } from '~/stores/frame'

export function useMarks() {
  const frame = useFrame()
  const lists = ref<ListLine[]>([])
  const tags = ref<TagLine[]>([])
  const loaded = ref(false)
  const problem = ref<string | null>(null)

  async function load() {
    try {
      [lists.value, tags.value] = await Promise.all([api('GET /lists'), api('GET /tags')])
      loaded.value = true
      problem.value = null
    }
    catch (error) {
      problem.value = (error as Error).message
    }
  }
  onMounted(load)

  async function make(kind: 'lists' | 'tags', name: string): Promise<number> {
    const { id } = await (kind === 'lists'
      ? api('POST /lists', { body: { name, publicName: name, description: '' } })
      : api('POST /tags', { body: { name, note: '', follows: NOTHING_FOLLOWS } }))
    await Promise.all([load(), frame.loadFrame()])
    return id
  }

  return { lists, tags, loaded, problem, load, make }
}
