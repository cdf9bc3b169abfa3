/** A file that a reader fetches, by an address that is theirs. It never goes through counting. */
import { sayBytes } from '../../stats/say'
import type { FileNode } from '../content'
import { eitherWay, type BlockKind } from './block'

/** What its address is called among what is ready. */
export const fileKey = (fileId: number): string => `file ${fileId}`

/** The file that is ready by that name; null for anything else. */
export const fileOfKey = (key: string): number | null => key.startsWith('file ') ? Number(key.slice(5)) : null

const words = ({ label, fileName }: FileNode['attrs']) => label.trim() || fileName

export const file: BlockKind<FileNode> = {
  word: 'File',
  hasWords: ({ attrs }) => attrs.fileId !== null,
  html(write, { attrs }) {
    if (attrs.fileId === null) return { row: '' }
    const href = write.ready(fileKey(attrs.fileId))
    const size = `<span class="second" style="color:${write.paint.second}">${write.literal(sayBytes(attrs.bytes))}</span>`
    return { row: `<mj-text>${eitherWay(`<a href="${href}" class="link">&#8595; ${write.literal(words(attrs))}</a> ${size}`)}</mj-text>` }
  },
  text: (write, { attrs }) => attrs.fileId === null
    ? ''
    : `${write.literal(words(attrs))} (${sayBytes(attrs.bytes)}):\n${write.ready(fileKey(attrs.fileId))}`,
}
