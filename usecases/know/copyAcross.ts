/** Copying what was made between practice and live, in either direction, with what it depends on. Nobody's data goes along. */
import type { PortableNames } from '#core/exchange/portable'
import type { Thing } from '#core/things'
import { THING_WORDS } from '#core/things'
import type { CopyAcross } from '#core/views/across'
import type { Database } from '#data/connection'
import { allFiles, contentOfFile, findFile, insertFile } from '#data/files'
import { findPageBySlug } from '#data/pages'
import { findOfferBySlug } from '#data/offers'
import { copyPicture } from '#data/pictures'
import { findSender, senderByAddress } from '#data/senders'
import { changeNow, definitionLines, definitionOut, makeDefinition, type Definition, type DefinitionKind } from '../api/definitions'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { NotThere } from '../problem'

const KINDS: readonly string[] = ['page', 'offer', 'course', 'broadcast', 'rule', 'link', 'segment'] satisfies DefinitionKind[]
const isDefinition = (kind: string): kind is DefinitionKind => KINDS.includes(kind)

/** Names are what tells things apart between workspaces; a house rule has none of its own. */
function sameNamed(to: WorkspaceContext, kind: DefinitionKind, name: string): number | null {
  if (kind === 'rule') return null
  return definitionLines(to, kind).find(line => line.name.toLowerCase() === name.toLowerCase())?.id ?? null
}

/**
 * Makes a copy in the other workspace: all of it, or nothing. Lists, tags and fields are found by their names or made; pages, offers,
 * courses, links and segments that it names and that are not there are copied first. `replace`: what is of its name there gets this draft;
 * null where that is still to be asked, and then nothing is done.
 */
export function copyAcross(from: WorkspaceContext, to: WorkspaceContext, { kind, id }: Thing, replace: boolean | null): CopyAcross {
  if (!isDefinition(kind)) throw new NotThere(`${THING_WORDS[kind]} cannot be copied to another workspace by itself.`)
  const { name } = definitionOut(from, kind, id)
  const same = sameNamed(to, kind, name)
  // What is scheduled or was sent is not replaced: another one is made beside it.
  const there = kind === 'broadcast' && same !== null && definitionOut(to, kind, same).state !== 'draft' ? null : same
  if (there !== null && replace === null) return { is: 'asks', name }
  return transact(to, () => new Crossing(from, to).bring(kind, id, there !== null && replace === true ? there : null))
}

class Crossing {
  readonly #made = new Set<string>()
  /** Under way or done, by their numbers there where they came from. */
  readonly #known = new Map<string, number | null>()
  readonly #files = new Map<string, number>()
  /** Courses that name what is only there once all is: they get it last. */
  readonly #unfinished: (() => void)[] = []

  constructor(private readonly from: WorkspaceContext, private readonly to: WorkspaceContext) {}

  bring(kind: DefinitionKind, id: number, into: number | null): CopyAcross {
    const newId = this.#bring(kind, id, into)
    for (const finish of this.#unfinished) finish()
    return { is: 'done', id: newId, replaced: into !== null, alongside: [...this.#made] }
  }

  #bring(kind: DefinitionKind, id: number, into: number | null): number {
    const key = `${kind} ${id}`
    this.#known.set(key, into)
    const { name, definition } = definitionOut(this.from, kind, id, { whole: true })
    const whole = this.#withContents(definition as Definition)
    // Whoever names a course that names them back finds it there already: it is made without them, and gets them afterwards.
    let at = into ?? (kind === 'course' ? this.#make(kind, name, whole) : null)
    this.#known.set(key, at)
    this.#bringNamed(definition.names)
    if (at === null) {
      at = this.#make(kind, name, whole)
      this.#known.set(key, at)
    }
    else this.#change(kind, at, whole)
    return at
  }

  /** What it names that is made by its owner, where it is not there yet. */
  #bringNamed(names: PortableNames): void {
    for (const { kind, name } of Object.values(names.other)) {
      if (!isDefinition(kind) || sameNamed(this.to, kind, name) !== null) continue
      const source = definitionLines(this.from, kind).find(line => line.name === name)
      if (!source || this.#known.has(`${kind} ${source.id}`)) continue
      this.#bring(kind, source.id, null)
      this.#made.add(`${THING_WORDS[kind].replace(/^an? /, 'the ')} “${name}”`)
    }
  }

  #make(kind: DefinitionKind, name: string, definition: Definition): number {
    const free = { ...definition, name: this.#freeName(kind, name), draft: this.#freeSlug(kind, definition.draft) }
    const { id, made } = makeDefinition(this.to, kind, free)
    this.#note(made)
    return id
  }

  #change(kind: DefinitionKind, id: number, whole: Definition): void {
    const { made, lost } = changeNow(this.to, kind, id, whole, null)
    this.#note(made)
    if (lost.length > 0) this.#unfinished.push(() => void changeNow(this.to, kind, id, whole, null))
  }

  #note(made: readonly string[]): void {
    for (const one of made) this.#made.add(one)
  }

  #freeName(kind: DefinitionKind, name: string): string {
    for (let n = 1; ; n++) {
      const free = n === 1 ? name : `${[...name].slice(0, 74).join('')} ${n}`
      if (sameNamed(this.to, kind, free) === null) return free
    }
  }

  /** Pages and offers have an address, which another of another name may have there. */
  #freeSlug(kind: DefinitionKind, draft: Definition['draft']): Definition['draft'] {
    if (!('slug' in draft)) return draft
    const isTaken = (slug: string) => (kind === 'page' ? findPageBySlug : findOfferBySlug)(this.to.db, slug) !== undefined
    for (let n = 1; ; n++) {
      const slug = n === 1 ? draft.slug : `${draft.slug}-${n}`
      if (!isTaken(slug)) return { ...draft, slug }
    }
  }

  /** Its files and pictures go along; one that is there already is used again. */
  #withContents(definition: Definition): Definition {
    const [from, to, at] = [this.from.db, this.to.db, this.to.clock.now()]
    const draft = JSON.parse(JSON.stringify(definition.draft), (key, value: unknown) => {
      if (typeof value !== 'number') return value
      if (key === 'fileId') return this.#once(`file ${value}`, () => copyFile(from, to, value, at))
      if (key === 'pictureId') return this.#once(`picture ${value}`, () => copyPicture(from, to, value, at))
      // Who has the same address there, else whoever writes there.
      if (key === 'senderId') return senderByAddress(to, findSender(from, value)?.address ?? '')?.id
      return value
    }) as Definition['draft']
    return { ...definition, draft }
  }

  #once(key: string, copy: () => number): number {
    const known = this.#files.get(key)
    if (known !== undefined) return known
    const id = copy()
    this.#files.set(key, id)
    return id
  }
}

function copyFile(from: Database, to: Database, id: number, at: number): number {
  const file = findFile(from, id)!
  const content = contentOfFile(from, id)
  const same = allFiles(to).find(one => one.name === file.name && one.bytes === file.bytes
    && Buffer.compare(contentOfFile(to, one.id), content) === 0)
  return same?.id ?? insertFile(to, { name: file.name, type: file.type, content, at })
}
