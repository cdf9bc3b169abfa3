/** Editors for the parts of a page that is its own canvas. */
import { Editor, Node } from '@tiptap/core'
import StarterKit from '@tiptap/starter-kit'
import type { EditedAs } from '#core/page/editing'
import type { ListText } from '#core/page/section'
import type { PageText } from '#core/page/text'
import { NoBreaks, OneLine } from './line'

/** What stands in such a part. */
export type PartValue = string | PageText | ListText

const plain = { blockquote: false, code: false, codeBlock: false, horizontalRule: false, strike: false, underline: false } as const
const link = { openOnClick: false, autolink: true, protocols: ['http', 'https'], HTMLAttributes: { rel: null, target: null } }
/** Exactly one list. */
const OneList = Node.create({ name: 'doc', topNode: true, content: '(bulletList | orderedList)' })

function extensionsFor(as: EditedAs) {
  switch (as) {
    case 'line':
      return [StarterKit.configure({
        ...plain, document: false, bold: false, italic: false, bulletList: false, orderedList: false, listItem: false, listKeymap: false,
        hardBreak: false, heading: false, link: false, trailingNode: false,
      }), OneLine, NoBreaks]
    case 'rich':
      return [StarterKit.configure({ ...plain, heading: { levels: [2, 3] }, link, trailingNode: false })]
    case 'list':
      return [StarterKit.configure({ ...plain, document: false, heading: false, link, trailingNode: false }), OneList]
  }
}

const docOfLine = (text: string) => ({
  type: 'doc', content: [{ type: 'paragraph', ...text !== '' && { content: [{ type: 'text', text }] } }],
})

/** Takes the place of what stands in `element`. `onChange` gets what the part holds now. */
export function editPart(
  element: HTMLElement, as: EditedAs, label: string, value: PartValue, onChange: (value: PartValue) => void,
  onFocus: (editor: Editor) => void,
): Editor {
  element.replaceChildren()
  const editor = new Editor({
    element,
    injectCSS: false,
    content: as === 'line' ? docOfLine(value as string) : value as object,
    extensions: extensionsFor(as),
    editorProps: { attributes: { 'role': 'textbox', 'aria-multiline': String(as !== 'line'), 'aria-label': label } },
    onUpdate: ({ editor: now }) => {
      element.classList.toggle('is-empty', now.isEmpty)
      onChange(as === 'line' ? now.getText().replace(/\s+/g, ' ').trimStart() : now.getJSON() as unknown as PageText)
    },
    onFocus: ({ editor: now }) => onFocus(now as Editor),
  })
  element.classList.toggle('is-empty', editor.isEmpty)
  return editor
}

/** The part of a draft under a path of its canvas: `s2/text`, `s5/questions.0.answer`, `form/buttonLabel`. */
export function partAt(
  draft: { sections: readonly { id: string }[], form: object }, path: string,
): { of: Record<string, unknown>, key: string } {
  const [where, rest] = path.split('/') as [string, string]
  const keys = rest.split('.')
  let of = (where === 'form' ? draft.form : draft.sections.find(({ id }) => id === where)) as Record<string, unknown>
  for (const key of keys.slice(0, -1)) of = of[key] as Record<string, unknown>
  return { of, key: keys.at(-1)! }
}
