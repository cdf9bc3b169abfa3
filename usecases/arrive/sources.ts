/** Sources with a name of the owner's, like a flyer: each has a word that stands in an address. */
import { slugOf } from '#core/message/headers'
import { insertNamedSource, namedSources } from '#data/sources'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem } from '../problem'

export function nameSource(context: WorkspaceContext, name: string): number {
  const { db } = context
  const title = name.replace(/\s+/g, ' ').trim()
  if (title === '') throw new InputProblem([{ field: 'name', problem: 'Give the source a name, like “workshop flyer”.' }])
  return transact(context, () => {
    const known = namedSources(db)
    if (known.some(one => one.name.toLowerCase() === title.toLowerCase())) {
      throw new InputProblem([{ field: 'name', problem: 'There is already a source with this name.' }])
    }
    const wanted = slugOf(title).slice(0, 60)
    let slug = wanted
    for (let n = 2; known.some(one => one.slug === slug); n++) slug = `${wanted}-${n}`
    return insertNamedSource(db, { name: title, slug, at: context.clock.now() })
  })
}
