/** What stands in several emails and is changed in one place: parts, offers, the look; what was sent stays as it was. */
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import type { OfferContent } from '#core/offers/offer'
import type { MessageContent, RichText } from '#core/message/content'
import type { Mail } from '#core/ports'
import { DEFAULT_LOOK } from '#core/message/look'
import { hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { newRule } from '#core/rules/rule'
import { saveRule } from '#usecases/know/rules'
import { emailLibrary } from '#usecases/views/emailLibrary'
import { publishChanges } from '#usecases/courses/publish'
import { saveCourse } from '#usecases/courses/save'
import { definitionOut } from '#usecases/api/definitions'
import { saveSegment } from '#usecases/know/segments'
import { bringCourse, exportCourse } from '#usecases/courses/exchange'
import { giveTagByHand } from '#usecases/know/byHand'
import {
  emailPartsView, emailTemplates, forgetTemplate, keepTemplate, removePart, saveEmailLook, savePart,
} from '#usecases/know/emailParts'
import { saveField } from '#usecases/know/fields'
import { saveTag } from '#usecases/know/listsAndTags'
import { publishOffer, saveOffer } from '#usecases/offers/save'
import { InputProblem, NotThere } from '#usecases/problem'
import { play } from '#usecases/time/play'
import { sentEmail } from '#usecases/views/sentEmail'
import { coupon, openContext, openShop, buy } from './shop'
import { DAY, email, furnish, moveTo, step, tag, thursdayNoon, visit, type Workshop } from './workshop'

const says = (text: string) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] })
const doc = (...content: RichText['content']): RichText => ({ type: 'doc', content })
const tagged = (tagId: number): Condition => ({ kind: 'all', of: [{ kind: 'tag', tagId, since: null }] })

/** Two emails, one at once and one a day later, with the same body. */
async function twice(context: Workshop, body: RichText, more: Partial<MessageContent> = {}) {
  const content = email('one', { body, ...more })
  return furnish(context, () => [
    step('one', { kind: 'at-once' }, content),
    step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, { ...content, workingTitle: 'two' }),
  ])
}
const mails = (context: Workshop) => (context.carrier as unknown as { mails: Mail[] }).mails
const sentOf = (context: Workshop, personId: number, itemId: string) =>
  sentEmail(context, emailsOfPerson(context.db, personId).find(one => one.itemId === itemId)!.id)

describe('a part', () => {
  it('changes every email that shows it and is not sent yet, for each reader by their own version and what is known of them', async () => {
    const context = openContext()
    const tagId = saveTag(context, null, tag('coptic'))
    const townId = saveField(context, null, { name: 'town', label: '', kind: 'text', choices: [] })
    const town = { type: 'placeholder' as const, attrs: { field: 'own' as const, fieldId: townId, label: 'town', fallback: 'your town' } }
    const body = (words: string) => doc(says(`${words} always`), {
      type: 'onlyFor', content: [{ type: 'case', attrs: { who: tagged(tagId) }, content: [
        { type: 'paragraph', content: [{ type: 'text', text: `${words} coptic in ` }, town] },
      ] }],
    })
    const partId = savePart(context, null, { name: ' Signature ', body: body('First') })
    const { courseId } = await twice(context, doc(says('Hello'), { type: 'part', attrs: { partId } }))
    const [ada, bo] = [visit(context, 'ada@example.com'), visit(context, 'bo@example.com')]
    giveTagByHand(context, ada, tagId)
    context.db.prepare('INSERT INTO field_values (field_id, person_id, value) VALUES (?, ?, ?)').run(townId, ada, 'Évora')
    await play(context, thursdayNoon)
    expect(emailPartsView(context)).toMatchObject([
      { id: partId, name: 'Signature', uses: [{ kind: 'course', id: courseId, how: 'shown in' }] },
    ])
    savePart(context, partId, { name: 'Signature', body: body('Second') })
    await moveTo(context, thursdayNoon + DAY)
    const read = (to: string) => mails(context).filter(mail => mail.to.address === to).map(({ text }) => text.split('\n-- \n')[0]!.trim())
    expect(read('ada@example.com')).toEqual(['First', 'Second'].map(word => `Hello\n\n${word} always\n\n${word} coptic in Évora`))
    expect(read('bo@example.com')).toEqual(['First', 'Second'].map(word => `Hello\n\n${word} always`))
    // What was sent is shown with what stood there then.
    expect(sentOf(context, ada, 'one').text).toContain('First coptic in Évora')
    expect(sentOf(context, bo, 'two').text).toContain('Second always')
  })

  it('goes along with a course that is taken elsewhere, and leaves nothing where it is deleted', async () => {
    const context = openContext()
    const partId = savePart(context, null, { name: 'Row', body: doc(says('In the part')) })
    const { courseId } = await twice(context, doc(says('Hello'), { type: 'part', attrs: { partId } }))
    const file = JSON.stringify(exportCourse(context, courseId))
    expect(file).toContain('In the part')
    expect(file).not.toContain('partId')
    expect(JSON.stringify(definitionOut(context, 'course', courseId, { whole: true }))).toContain('In the part')
    visit(context, 'ada@example.com')
    removePart(context, partId)
    await play(context, thursdayNoon)
    expect(mails(context)[0]!.text).toMatch(/^Hello\n\n-- \n/)
    expect(() => removePart(context, partId)).toThrow(NotThere)
  })

  it('versions for who is not known elsewhere come along without that condition', async () => {
    const context = openContext()
    const segmentId = saveSegment(context, null, { name: 'Keen', note: '', condition: { kind: 'all', of: [] } })
    const who: Condition = { kind: 'all', of: [{ kind: 'segment', segmentId }] }
    const { courseId } = await twice(
      context, doc({ type: 'onlyFor', content: [{ type: 'case', attrs: { who }, content: [says('For keen readers')] }] })
    )
    const { id } = bringCourse(openContext(), exportCourse(context, courseId))
    expect(id).toBeGreaterThan(0)
  })

  it('is refused without a name, under the name of another, and with what is not there', () => {
    const context = openContext()
    savePart(context, null, { name: 'Row', body: doc(says('x')) })
    const field = (name: string, body: RichText) => {
      try {
        savePart(context, null, { name, body })
      } catch (error) {
        return (error as InputProblem).problems[0]!.field
      }
    }
    expect(field('  ', doc(says('x')))).toBe('name')
    expect(field('row', doc(says('x')))).toBe('name')
    const unknown = { type: 'placeholder' as const, attrs: { field: 'own' as const, fieldId: 4711, fallback: 'x' } }
    expect(field('Other', doc({ type: 'paragraph', content: [unknown] }))).toBe('body')
  })
})

describe('an offer in an email', () => {
  it('has the price, coupon and closing of when it is sent, leads to its page, and sells it', async () => {
    const context = openContext()
    const closesAt = thursdayNoon + 10 * DAY
    const setting = await twice(context, doc(says('Hello')))
    const { offerId } = await openShop(setting, { closesAt })
    coupon(context, offerId, { code: 'GUILD', cut: { kind: 'amount', amount: 900 } })
    const offer = { type: 'offer' as const, attrs: { offerId, code: 'guild', label: 'Take a seat' } }
    const countdown = { type: 'countdown' as const, attrs: { offerId, until: null, before: 'Closes in', after: 'It has closed.' } }
    const content = email('one', { body: doc(says('Hello'), offer, countdown) })
    saveCourse(context, setting.courseId, 'x', { listId: setting.listId, wayInTagIds: [setting.tagId], again: 'after-ending', steps: [
      step('one', { kind: 'at-once' }, content),
      step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, { ...content, workingTitle: 'two' }),
    ] })
    await publishChanges(context, setting.courseId)
    const ada = visit(context, 'ada@example.com', '', 'America/New_York')
    await play(context, thursdayNoon)
    const [first] = mails(context)
    expect(first!.text).toMatch(/^Hello\n\nLong-Stitch Journals: €40\.00 instead of €49\.00\nWith the code GUILD\.\nCloses Sunday 6 December, 07:00, New York time\nTake a seat:\n\S+\/l\/\S+\n\nCloses in 10 days\nSunday 6 December, 07:00, New York time\n/)
    const draft = context.db.prepare('SELECT draft FROM offers WHERE id = ?').pluck().get(offerId) as string
    saveOffer(context, offerId, { name: 'Long-Stitch Journals', slug: 'long-stitch', draft: {
      ...JSON.parse(draft) as OfferContent, price: { currency: 'EUR', amount: 5900, paying: 'once', parts: 1 },
    } })
    await publishOffer(context, offerId)
    await moveTo(context, thursdayNoon + DAY)
    expect(mails(context)[1]!.text).toContain('€50.00 instead of €59.00')
    expect(sentOf(context, ada, 'one').text).toContain('€40.00 instead of €49.00')
    // Who has it gets no email that sells it.
    await buy(context, 'bo@example.com')
    visit(context, 'bo@example.com')
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(context.db.prepare(`SELECT DISTINCT reason FROM outbox WHERE status = 'held back'`).pluck().all()).toEqual(['owns-it'])
    expect(hasTag(context.db, setting.tagId, ada)).toBe(true)
  })
})

describe('the look', () => {
  it('is that of when an email is sent; what could not be read is refused', async () => {
    const context = openContext()
    await twice(context, doc(says('Hello')))
    const ada = visit(context, 'ada@example.com')
    await play(context, thursdayNoon)
    saveEmailLook(context, { ...DEFAULT_LOOK, ground: '#FFEEDD' })
    await moveTo(context, thursdayNoon + DAY)
    expect(mails(context).map(({ html }) => html.includes('#FFEEDD'))).toEqual([false, true])
    expect(sentOf(context, ada, 'one').html).not.toContain('#FFEEDD')
    expect(() => saveEmailLook(context, { ...DEFAULT_LOOK, ink: '#CCCCCC' })).toThrow(InputProblem)
    // As it was at first: the wording of then is used again, not made once more.
    saveEmailLook(context, DEFAULT_LOOK)
    visit(context, 'bo@example.com')
    await moveTo(context, thursdayNoon + DAY)
    expect(context.db.prepare('SELECT count(*) FROM messages WHERE item_id = ?').pluck().get('one')).toBe(1)
  })
})

describe('the library', () => {
  it('has every email wherever it is written, with what it asks for, what it adds, whether readers get it, and when it was sent last', async () => {
    const context = openContext()
    const tagId = saveTag(context, null, tag('asked'))
    const partId = savePart(
      context, null, { name: 'Row', body: doc({ type: 'button', attrs: { label: 'Press', url: 'https://a.example.com/', tagId } }) }
    )
    const setting = await twice(context, doc(says('Unmistakable'), { type: 'part', attrs: { partId } }))
    await openShop(setting)
    const rule = newRule(
      { kind: 'opted-in', thingId: null }, [{ kind: 'email', listId: setting.listId, content: email('by a rule'), messageId: null }]
    )
    await saveRule(context, null, rule)
    visit(context, 'ada@example.com')
    await play(context, thursdayNoon)
    const lines = emailLibrary(context)
    expect(lines.map(({ kind, title, isLive, lastAt }) => [kind, title, isLive, lastAt])).toEqual([
      ['course', 'one', true, thursdayNoon], ['course', 'two', true, null], ['receipt', 'The receipt', true, null],
      ['house rule', 'by a rule', true, thursdayNoon],
    ])
    expect(lines[0]).toMatchObject({
      of: 'Fold, Sew, Cover', to: `/courses/${setting.courseId}?email=one`, asks: ['Press'], tags: ['asked'],
    })
    expect(lines[0]!.words).toContain('Unmistakable')
  })
})

describe('a template of one’s own', () => {
  it('stands before ours until it is deleted', () => {
    const context = openContext()
    const id = keepTemplate(context, 'Thursday', email('x'))
    expect(emailTemplates(context).map(({ name }) => name).slice(0, 2)).toEqual(['Thursday', 'Welcome'])
    forgetTemplate(context, id)
    expect(emailTemplates(context)).toHaveLength(12)
    expect(() => forgetTemplate(context, id)).toThrow(NotThere)
  })
})
