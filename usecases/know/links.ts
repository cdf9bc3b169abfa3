/** The library of tracked links. */
import { EVERYBODY } from '#core/audience/condition'
import { LINK_ACTIONS, newRule } from '#core/rules/rule'
import { readAddress } from '#core/message/webAddress'
import { endLink, findLink, insertLink, isInLibrary, updateLink } from '#data/links'
import type { LinkInput } from '#core/views/links'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { refuseIfNeeded } from '../inner/uses'
import type { FieldProblem } from '../problem'
import { InputProblem, NotThere } from '../problem'
import { problemsOf } from './rules'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()

/** Another destination counts in emails already sent, from the next click on. */
export function saveLink(context: WorkspaceContext, id: number | null, input: LinkInput): number {
  const { db } = context
  const link = { ...input, name: tidy(input.name), note: tidy(input.note), url: input.url.trim() }
  const saved = transact(context, () => {
    if (id !== null && !isInLibrary(db, id)) throw new NotThere('This link no longer exists.')
    const problems: FieldProblem[] = []
    if (link.name === '') problems.push({ field: 'name', problem: 'Give the link a name.' })
    const read = readAddress(link.url)
    if (!read.ok) problems.push({ field: 'url', problem: read.problem })
    link.does.forEach((action, n) => {
      if (!LINK_ACTIONS.includes(action.kind)) problems.push({
        field: `does.${n}`, problem: 'A link cannot do this. Make a house rule for it.',
      })
      else problems.push(...problemsOf(db, {
        ...newRule({ kind: 'imported', thingId: null }, [action]), who: EVERYBODY,
      }).map(({ problem }) => ({ field: `does.${n}`, problem })))
    })
    if (problems.length > 0) throw new InputProblem(problems)
    const at = context.clock.now()
    if (id === null) return insertLink(db, link, at)
    updateLink(db, id, link, at)
    return id
  })
  context.wake()
  return saved
}

/** Emails that have it still lead by it; it brings nothing any more, and cannot be chosen. */
export function removeLink(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    const link = findLink(db, id)
    if (!link || !isInLibrary(db, id)) throw new NotThere('This link no longer exists.')
    refuseIfNeeded(db, { kind: 'link', id })
    const at = context.clock.now()
    updateLink(db, id, { ...link, does: [], asks: false }, at)
    endLink(db, id, at)
  })
}
