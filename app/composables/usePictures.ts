/** The pictures of this workspace, for what is written with them. */
import { picturePath } from '#core/page/picture'
import { api } from './useApi'
import { useFrame } from '~/stores/frame'

export function usePictures() {
  const frame = useFrame()
  const src = (id: number): string => `${frame.mode === 'practice' ? '/practice' : ''}${picturePath(id, 'mail')}`
  /** Brings a file in. Throws an ApiProblem for what is no picture, or too large. */
  const bring = async (file: File): Promise<number> => (await api('POST /pictures', { query: { name: file.name }, file })).id
  return { src, bring }
}
