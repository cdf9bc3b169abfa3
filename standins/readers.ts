/**
 * The readers of practice. Each invented person has a keenness; what they do
 * with an email follows from it, the email and a seed, so that the same story
 * can be told twice.
 */
import { createHash } from 'node:crypto'
import type { ReaderAct, Readers } from '#core/ports'
import { DAY, HOUR, MINUTE, SECOND } from '#core/time/zone'

/** How likely a reader of full keenness is to do something with an email. */
const LIKELIHOOD = { prefetch: 0.22, scanner: 0.03, open: 0.95, click: 0.45, leave: 0.006, press: 0.92 }

const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64) a made-up reader'
const PROXY = 'Mozilla/5.0 (via ggpht.com GoogleImageProxy)'

export function createReaders(seed: string): Readers {
  return {
    actsFor({ messageId, keenness, links, wanted }) {
      const dice = diceFor(`${seed}\n${messageId}`)
      const acts: ReaderAct[] = []
      if (wanted) {
        // Nearly everybody who wants something presses the button; most at once, some when they look again in the evening.
        const pressAfter = Math.round(25 * SECOND + waiting(dice()) * (dice() < 0.8 ? 4 * MINUTE : 9 * HOUR))
        if (dice() < LIKELIHOOD.press - 0.25 * (1 - keenness)) acts.push({ kind: 'press', after: pressAfter, link: null, agent: BROWSER })
        return acts
      }
      // Some mail clients fetch pictures before anybody looks; some mail servers follow every link.
      if (dice() < LIKELIHOOD.prefetch) {
        acts.push({ kind: 'open', after: Math.round(2 * SECOND + dice() * MINUTE), link: null, agent: PROXY })
      }
      if (dice() < LIKELIHOOD.scanner) {
        const after = Math.round(SECOND + dice() * 3 * SECOND)
        for (let link = 0; link < links; link++) acts.push({ kind: 'click', after: after + link * 200, link, agent: BROWSER })
      }
      const opensAfter = Math.round(3 * MINUTE + waiting(dice()) * 9 * HOUR)
      if (dice() < LIKELIHOOD.open * keenness && opensAfter < 6 * DAY) {
        acts.push({ kind: 'open', after: opensAfter, link: null, agent: BROWSER })
        const clickAfter = opensAfter + Math.round(20 * SECOND + dice() * 6 * MINUTE)
        if (links > 0 && dice() < LIKELIHOOD.click * (0.4 + 0.6 * keenness)) {
          acts.push({ kind: 'click', after: clickAfter, link: Math.floor(dice() * links), agent: BROWSER })
        }
        else if (dice() < LIKELIHOOD.leave * (2 - keenness) * 2) {
          acts.push({ kind: 'leave', after: clickAfter, link: null, agent: BROWSER })
        }
      }
      return acts
    },
  }
}

/** Most people look soon, a few after days: the waiting time of a memoryless process. */
function waiting(roll: number): number {
  return -Math.log(1 - roll)
}

/** Numbers from 0 up to 1 that depend on nothing but `text`. */
export function diceFor(text: string): () => number {
  let block = createHash('sha256').update(text).digest()
  let next = 0
  return () => {
    if (next + 4 > block.length) {
      block = createHash('sha256').update(block).digest()
      next = 0
    }
    const value = block.readUInt32BE(next) / 2 ** 32
    next += 4
    return value
  }
}
