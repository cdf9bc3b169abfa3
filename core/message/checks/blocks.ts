/** What stands in an email: links, buttons, pictures, files, and versions for some. */
import { leavesOf } from '../../audience/condition'
import { sayBytes } from '../../stats/say'
import { HEAVY_BYTES, MOST_ATTACHED_BYTES, weightOf } from '../attached'
import { allBlocks, blockKind, choicesOf, isHidden, linksOf, shownBlocks } from '../blocks'
import { hasOwnButton, type BlockNode, type MessageContent, type PictureAttrs } from '../content'
import { readAddress } from '../webAddress'
import { look, placed, spotOf, wrong, type Check, type Finding, type Spot } from './check'

export const links: Check = {
  name: 'Links have an address',
  detail: ({ body }) => String(linksOf(body).length),
  find({ body }, { deadLinks }) {
    return placed(body).flatMap(({ node, at }) => {
      const found: Finding[] = []
      blockKind(node).links?.(node, (url, label, { answers }) => {
        if (answers) {
          if (label.trim() === '') found.push(wrong('A choice has no words', 'Say what readers choose.', at, 'a choice without words'))
          return
        }
        const read = readAddress(url, node.type === 'button' || node.type === 'video' ? 'web' : 'any')
        const name = label.trim() || 'A link'
        if (!read.ok) found.push(wrong(`“${name}” leads nowhere`, `${read.problem}.`.replace('..', '.'), at, 'leads nowhere'))
        else if (/[{}]|%7B|%7D|\[first name/i.test(url)) {
          found.push(wrong(
            `“${name}” has a placeholder in its address`, 'An address is the same for everybody: take it out.', at,
            'a placeholder in its address',
          ))
        }
        else if (deadLinks.has(url)) {
          found.push(wrong(`“${name}” does not answer`, `At ${url} ${deadLinks.get(url)}.`, at, 'does not answer'))
        }
      })
      return found
    })
  },
}

export const ownButton: Check = {
  name: 'Its own button',
  isFor: ({ own }) => own,
  find: content => !hasOwnButton({ ...content, body: { type: 'doc', content: shownBlocks(content.body) } })
    ? [wrong('Its own button is missing', 'Without it nobody can do what the email asks for. Add it with “/”.')]
    : [],
}

export const oneCall: Check = {
  name: 'One thing to do',
  find({ body }) {
    const buttons = buttonsOfOne(body)
    const places = new Set(buttons.map(({ url }) => url))
    return places.size > 1
      ? [look(
        `${buttons.length} buttons lead to different places`, 'Readers do one thing. Keep one button, and make the others links.',
        buttons[1]!.at,
      )]
      : []
  },
}

/** The buttons that one reader sees: of each choice, those of the case that has most. */
function buttonsOfOne(body: MessageContent['body']): { url: string, at: Spot | null }[] {
  const of = (nodes: readonly BlockNode[], at: Spot | null) => nodes
    .flatMap(node => node.type === 'button' && !isHidden(node) ? [{ url: node.attrs.url, at }] : [])
  return shownBlocks(body).flatMap(node => node.type === 'onlyFor'
    ? node.content.map(one => of(one.content, spotOf(node))).sort((a, b) => b.length - a.length)[0] ?? []
    : of([node], spotOf(node)))
}

export const pictures: Check = {
  name: 'Pictures are described',
  detail: ({ body }) => String(picturesIn(body).length),
  find({ body }, { pictureBytes }) {
    const shown = allBlocks(body)
    const found = picturesIn(body).flatMap(({ at, attrs }) => {
      if (attrs.pictureId === null) return [look('A picture is missing', 'Add it, or take the block out. It is not sent so.', at)]
      const bytes = pictureBytes.get(attrs.pictureId) ?? 0
      if (bytes > HEAVY_BYTES) {
        return [look(`A picture weighs ${sayBytes(bytes)}`, 'On a telephone it comes slowly. Use a smaller one.', at)]
      }
      return attrs.isPlain || attrs.alt.trim() !== ''
        ? []
        : [wrong(
          'A picture has no description', 'People who do not see it have nothing to read. Say what it shows.', at,
          'no description',
        )]
    })
    const hasWords = shown.some(node => blockKind(node).hasWords(node))
    return !hasWords && found.length === 0 && shown.some(({ type }) => type === 'picture')
      ? [wrong('There are only pictures', 'Many mail programs hide them at first. Say it in words, too.')]
      : found
  },
}

const picturesIn = (body: MessageContent['body']) => placed(body)
  .flatMap(({ node, at }) => node.type === 'picture' || node.type === 'beside' || node.type === 'video'
    ? [{ node: node as BlockNode, at, attrs: node.attrs as PictureAttrs }]
    : [])
  // The still of a film, and the side of a text, may be left away.
  .filter(({ node, attrs }) => node.type === 'picture' || attrs.pictureId !== null)

/** To fetch, and those that go along. */
export const files: Check = {
  name: 'Files',
  isFor: () => true,
  detail({ body, attached = [] }) {
    const fetched = allBlocks(body).filter(({ type }) => type === 'file').length
    return attached.length > 0 ? `${fetched} to fetch, ${sayBytes(weightOf(attached))} attached` : String(fetched)
  },
  find({ body, attached = [] }) {
    const missing = placed(body).flatMap(({ node, at }) => node.type === 'file' && node.attrs.fileId === null
      ? [wrong('A file is missing', 'Add it, or take the block out. It is not sent so.', at, 'no file')]
      : [])
    const weighs = weightOf(attached)
    if (weighs > MOST_ATTACHED_BYTES) {
      const todo = `They weigh ${sayBytes(weighs)} on their way. Many mail servers refuse that; put them into the email as files to fetch.`
      return [...missing, wrong('The attached files are too heavy', todo)]
    }
    return weighs > HEAVY_BYTES
      ? [...missing, look(`${sayBytes(weighs)} are attached`,
        'Every reader fetches all of it at once. A file to fetch costs nobody anything.')]
      : missing
  },
}

/** Versions that are for some. Other people fit tomorrow; so what is counted is only told. */
export const versions: Check = {
  name: 'Versions reach people',
  detail: content => String(choicesOf(content).reduce((sum, { who }) => sum + who.length, 0)),
  find(content, { choices }) {
    return choicesOf(content).flatMap(({ key, blockId, who }) => {
      const at: Spot | null = key === 'subject' ? 'subject' : blockId === null ? null : { blockId }
      if (who.some(one => one !== null && leavesOf(one).length === 0)) {
        return [wrong('A version is for nobody in particular', 'Choose who gets it.', at, 'choose for whom')]
      }
      const counted = choices?.find(one => one.key === key)
      const all = counted ? counted.none + counted.cases.reduce((sum, { people }) => sum + people, 0) : 0
      if (!counted || all === 0) return []
      return counted.cases.flatMap(({ says, people }, n) => {
        if (who[n] === null || (people > 0 && people < all)) return []
        return people === 0
          ? [look(`Nobody gets the version for people ${says}`, 'Nobody fits it today, or an earlier version takes them all.', at)]
          : [look(`Everybody gets the version for people ${says}`, 'Then it need not be a version. Is it meant so?', at)]
      })
    })
  },
}
