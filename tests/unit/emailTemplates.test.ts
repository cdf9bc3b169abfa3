/** The emails that others begin with: whole, different, and in order but for what only their owner can put in. */
import { describe, expect, it } from 'vitest'
import { compileEmail } from '#adapters/compileEmail'
import { checkMessage } from '#core/message/checks'
import { MOST_BYTES } from '#core/message/checks/check'
import { easeOf } from '#core/message/ease'
import { linksOf } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import { fillMessage } from '#core/message/fill'
import { contrastOf, dayOf, DEFAULT_LOOK, LEAST_CONTRAST, markOfLook, nightOf, problemsOfLook, type EmailLook } from '#core/message/look'
import { complete, inlineParts, isLookedUp } from '#core/message/complete'
import { linkKey } from '#core/message/template'
import { EMAIL_TEMPLATES } from '#core/message/templates/index'
import { SEND_KINDS } from '#core/sending/kinds'
import fc from 'fast-check'
import { messageContent } from '../../server/messageSchemas'

async function made(content: MessageContent, look: EmailLook = DEFAULT_LOOK) {
  return fillMessage(await compileEmail(content, SEND_KINDS.course, look), {
    facts: { list_name: 'Letters', sender_name: 'Ines', postal_address: 'Lisboa' },
    ready: { base_url: '', pixel_url: '/o', choices_url: '/m', own_url: '', ...Object.fromEntries(
      linksOf(content.body).map(({ n, url }) => [linkKey(n), url])
    ) },
  })
}

describe('the finished emails', () => {
  it('are twelve, each with a name of its own, and share no sentence', () => {
    expect(new Set(EMAIL_TEMPLATES.map(({ key }) => key)).size).toBe(12)
    const said = EMAIL_TEMPLATES.map(({ content }) => [...new Set(JSON.stringify(content.body).match(/"text":"[^"]{25,}"/g))])
    const all = said.flat()
    expect(all.filter((text, n) => all.indexOf(text) !== n)).toEqual([])
  })

  it.each(
    EMAIL_TEMPLATES.map(one => [one.name, one] as const)
  )('%s fits, and what is looked at before it leaves finds nothing wrong', async (_, { content }) => {
    expect(messageContent.validate(content).error).toBeUndefined()
    const { html, subject, text } = await made(content)
    const { findings } = checkMessage(content, {
      now: Date.UTC(2026, 10, 26), zone: 'Europe/Lisbon', own: false, widthOf: words => [...words].length * 8, easeOf,
      bytes: Buffer.byteLength(html), hasPostalAddress: true, from: null,
      pictureBytes: new Map(), deadLinks: new Map(), coupons: [], isLasting: false,
      choices: null, offers: null,
    })
    expect(findings.filter(({ weight }) => weight === 'wrong')).toEqual([])
    expect(findings.map(({ says }) => says).filter(says => !/picture is missing|buttons lead to different/.test(says))).toEqual([])
    expect(Buffer.byteLength(html)).toBeLessThan(MOST_BYTES / 3)
    expect(easeOf(text) ?? 100).toBeGreaterThan(60)
    expect(`${subject}${text}`).not.toMatch(/[{}[]undefined/)
  })

  it('a letter has nothing drawn in it, whatever look the workspace has', async () => {
    const look: EmailLook = { ...DEFAULT_LOOK, ground: '#FFEEDD', accent: '#7A1F1F', font: 'bookish', width: 'narrow' }
    const { content } = EMAIL_TEMPLATES.find(({ key }) => key === 'still-interested')!
    const html = (await made(content, look)).html
    expect(html).toBe((await made(content)).html)
    expect(html).not.toMatch(/#FFEEDD|#7A1F1F|Georgia|border-radius:6px/i)
    const designed = (await made({ ...content, isLetter: undefined }, look)).html
    for (const sign of ['#FFEEDD', '#7A1F1F', 'Georgia', 'max-width:520px']) expect(designed).toContain(sign)
  })
})

describe('a look', () => {
  const hex = fc.integer({ min: 0, max: 0xFFFFFF }).map(n => `#${n.toString(16).padStart(6, '0').toUpperCase()}`)
  it('that is kept can be read everywhere, by day and by night', () => fc.assert(fc.property(
    fc.record({ ground: hex, paper: hex, ink: hex, accent: hex }), (colours) => {
      const look: EmailLook = { ...DEFAULT_LOOK, ...colours }
      const wrong = problemsOfLook(look)
      expect(wrong.length > 0).toBe(Math.min(contrastOf(look.ink, look.paper), contrastOf(look.accent, look.paper)) < LEAST_CONTRAST)
      if (wrong.length > 0) return
      for (const { paper, ink, second, accent, onAccent } of [dayOf(look), nightOf(look)]) {
        for (const [text, on] of [[ink, paper], [second, paper], [accent, paper], [onAccent, accent]] as const) {
          expect(contrastOf(text, on), JSON.stringify({ look, text, on })).toBeGreaterThanOrEqual(LEAST_CONTRAST)
        }
      }
    }), { numRuns: 3000 }))

  it('of the beginning makes emails as they were before there was one', () => {
    expect(markOfLook(DEFAULT_LOOK)).toBe('')
    expect(markOfLook({ ...DEFAULT_LOOK, width: 'wide' })).not.toBe('')
    expect(problemsOfLook(DEFAULT_LOOK)).toEqual([])
    expect(problemsOfLook({ ...DEFAULT_LOOK, ink: '#999999' })[0]!.problem).toContain('the contrast is 2.8, and 4.5 is the least')
  })
})

describe('parts', () => {
  const says = (text: string) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] })
  it('stand where they are put, and nothing stands where one is gone or left out', () => {
    const part = (partId: number, hidden = false) => ({ type: 'part' as const, attrs: { partId, hidden } })
    const body = { type: 'doc' as const, content: [says('a'), part(1), part(2), part(1, true), says('z')] }
    const sources = {
      partOf: (id: number) => id === 1 ? { type: 'doc' as const, content: [says('b'), says('c')] } : undefined, offerOf: () => undefined,
    }
    expect([isLookedUp(body), isLookedUp({ type: 'doc', content: [says('a')] })]).toEqual([true, false])
    expect(complete({ body }, sources).body.content).toEqual([says('a'), says('b'), says('c'), says('z')])
    const course = { steps: [{ content: { body: { ...body, content: body.content.slice(0, 2) } } }] }
    expect(inlineParts(course, sources.partOf).steps[0]!.content.body.content).toEqual([says('a'), says('b'), says('c')])
  })
})
