/** Ports of a rehearsal: a reader who does as they were told, and emails that nobody sees. */
import { compileMessage } from '#core/message/compile'
import type { Composer, ReaderAct, Readers } from '#core/ports'
import type { Reading, RehearsedReader } from '#core/sequence/rehearsal'
import { UNIT_MS } from '#core/time/when'
import { MINUTE } from '#core/time/zone'

const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64) a rehearsed reader'

/** Nobody reads quicker than that: it would be taken for a machine. */
const QUICKEST = MINUTE

export function createRehearsedReader({ opens, clicks }: Pick<RehearsedReader, 'opens' | 'clicks'>, courseId: number): Readers {
  const does = ({ which, stepIds }: Reading, stepId: string, own: boolean) =>
    which === 'all' || (which === 'some' && own && stepIds.includes(stepId))
  const after = ({ after: { count, unit } }: Reading) => Math.max(QUICKEST, count * UNIT_MS[unit])
  return {
    actsFor({ links, wanted, stepId, courseId: of }) {
      if (wanted) return [{ kind: 'press', after: QUICKEST, link: null, agent: BROWSER }]
      const own = of === courseId
      const acts: ReaderAct[] = []
      const opensAfter = does(opens, stepId, own) ? after(opens) : 0
      if (opensAfter > 0) acts.push({ kind: 'open', after: opensAfter, link: null, agent: BROWSER })
      if (links > 0 && does(clicks, stepId, own)) acts.push({ kind: 'click', after: opensAfter + after(clicks), link: 0, agent: BROWSER })
      return acts
    },
  }
}

/** Makes nothing of an email but what the rest of the application needs of it. */
export const rehearsedComposer: Composer = {
  async compile(content, frame, look) {
    const { subject } = compileMessage(content, frame, { clean: source => source, words: source => source }, look)
    return { subject, html: [], text: [] }
  },
  async compose() {
    return new Uint8Array()
  },
}
