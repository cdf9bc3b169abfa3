/**
 * What is made here, as a file of its own: what it is about goes along by name, so that it can be brought into another workspace. Open and
 * plain: JSON, with the draft as it is and a list of names for the numbers in it.
 */
import { mapIds, type IdMap } from '#core/mentions'
import type { ThingKind } from '#core/things'

/** What it can name, and what goes along of it. */
export interface PortableNames {
  list: Record<string, { name: string, publicName: string, description: string }>
  tag: Record<string, { name: string }>
  field: Record<string, { name: string, label: string, kind: string }>
  /** These have to be there already where it is brought in; what names one that is not is left out. */
  other: Record<string, { kind: ThingKind, name: string }>
}

/** What goes along of a thing; undefined for what is gone. */
export type Describe = (
  kind: ThingKind, id: number,
) => { name: string, publicName?: string, description?: string, label?: string, type?: string } | undefined

/** Numbers become small ones of the file's own; wordings and links of the library stay behind. */
export function withNames<Draft>(draft: Draft, describe: Describe): { names: PortableNames, draft: Draft } {
  const names: PortableNames = { list: {}, tag: {}, field: {}, other: {} }
  const known = new Map<string, number>()
  const own: IdMap = (kind, id) => {
    const key = `${kind}/${id}`
    const before = known.get(key)
    if (before !== undefined) return before
    const number = known.size + 1
    known.set(key, number)
    const said = describe(kind, id)
    if (!said) return number
    if (kind === 'list') names.list[number] = {
      name: said.name, publicName: said.publicName ?? said.name, description: said.description ?? '',
    }
    else if (kind === 'tag') names.tag[number] = { name: said.name }
    else if (kind === 'field') names.field[number] = { name: said.name, label: said.label ?? said.name, kind: said.type ?? 'text' }
    else names.other[number] = { kind, name: said.name }
    return number
  }
  const plain = JSON.parse(JSON.stringify(draft, function (this: object, key, value: unknown) {
    if (key === 'linkId' && ('url' in this || 'href' in this)) return undefined
    return key === 'messageId' ? null : value
  })) as Draft
  return { names, draft: mapIds(plain, own) }
}
