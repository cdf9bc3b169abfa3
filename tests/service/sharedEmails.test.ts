/** Emails that are shared with everybody, read by another library and by nobody in particular. */
import { createApp, createRouter, toWebHandler } from 'h3'
import Parser from 'rss-parser'
import { describe, expect, it, vi } from 'vitest'
import { atomOf } from '#adapters/atom'
import type { BlockNode, PlainBlockNode } from '#core/message/content'
import { Refused } from '#server/refused'
import letter from '#server/site/letter.get'
import { openWorkspaces } from '#server/workspaces'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveLink } from '#usecases/know/links'
import { NotNow, NotThere } from '#usecases/problem'
import { sharedEmail, shareBroadcast, sharedLetters } from '#usecases/reading/sharedEmails'
import { linkLines } from '#usecases/views/links'
import { broadcastView } from '#usecases/views/broadcasts'
import { sendBroadcast, writeBroadcast } from './broadcasting'
import { temporaryFolder } from '../temporary'
import { email, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit } from './workshop'

const quiet = () => [step('one', { kind: 'elapsed', count: 80, unit: 'days', from: 'joining' })]
const paragraph = (text: string): PlainBlockNode => ({ type: 'paragraph', content: [{ type: 'text', text }] })

describe('an email that is shared', () => {
  it('stands on the page and in its feed as nobody in particular reads it, until it is taken from there', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    const secret = saveTag(context, null, tag('secret'))
    visit(context, 'ada@example.com', 'Ada')
    const body: BlockNode[] = [
      { type: 'paragraph', content: [
        { type: 'text', text: 'Hello ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'reader' } },
      ] },
      { type: 'onlyFor', content: [
        { type: 'case', attrs: { who: { kind: 'tag', tagId: secret, since: null } }, content: [paragraph('Only for members')] },
      ] },
      { type: 'button', attrs: { label: 'See <them> & more', url: 'https://saltmarsh.example.com/papers', tagId: null } },
    ]
    const content = { ...email('Papers & <ink>'), inBrowser: true as const, body: { type: 'doc' as const, content: body } }
    const id = await sendBroadcast(context, listId, { content })
    expect(() => shareBroadcast(context, id, true)).toThrow(NotNow)
    await moveTo(context, thursdayNoon + HOUR)
    await expect(sharedEmail(context, id, 'https://x.example.com/letters')).rejects.toThrow(NotThere)
    shareBroadcast(context, id, true)
    const { html } = await sharedEmail(context, id, 'https://x.example.com/letters')
    expect(html).toContain('Hello reader')
    expect(html).toContain('href="https://saltmarsh.example.com/papers"')
    expect(html).toContain('href="https://x.example.com/letters"')
    expect(html).not.toMatch(/Only for members|Ada|ada@|\/[lomv]\/[\w-]+\.|you are on the list|<script/)
    // A link that was wrong is put right where it leads, also here; where it led stays known.
    const link = linkLines(context).find(({ url }) => url === 'https://saltmarsh.example.com/papers')!
    const { name, asks } = link
    saveLink(context, link.id, { name, note: '', does: [], asks, url: 'https://saltmarsh.example.com/all-papers' })
    expect((await sharedEmail(context, id, 'https://x.example.com/letters')).html).toContain(
      'href="https://saltmarsh.example.com/all-papers"'
    )
    shareBroadcast(context, id, false)
    expect([sharedLetters(context), broadcastView(context, id).shared]).toEqual([[], null])
    await expect(sharedEmail(context, id, '')).rejects.toThrow(NotThere)
    await expect(sharedEmail(context, writeBroadcast(context, listId), '')).rejects.toThrow(NotThere)
  })

  it('says to try again, and that nothing is broken, where too many others are being made at this moment', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    const id = await sendBroadcast(context, listId)
    await moveTo(context, thursdayNoon + HOUR)
    shareBroadcast(context, id, true)
    vi.stubEnv('PORCH_DATA', temporaryFolder())
    const compile = () => Promise.reject(new Refused(503, 'The server is busy right now.'))
    const busy = { ...context, composer: { ...context.composer, compile } }
    const served = vi.spyOn(openWorkspaces(), 'of').mockReturnValue(busy)
    const ask = toWebHandler(createApp().use(createRouter().get('/letters/:id', letter)))
    const answer = await ask(new Request(`http://localhost/letters/${id}`))
    expect([answer.status, answer.headers.get('retry-after'), answer.headers.get('cache-control')]).toEqual([503, '10', 'no-store'])
    expect(await answer.text()).toMatch(/<h1>Please try again in a moment/)
    served.mockReturnValue(context)
    expect((await ask(new Request(`http://localhost/letters/${id}`))).status).toBe(200)
    served.mockRestore()
    vi.unstubAllEnvs()
  })

  it('is told by a feed that another library reads (RFC 4287), whatever its title', async () => {
    const letters = [
      { id: 2, title: 'Papers & <ink> ]]> "and" ’more’', preview: 'Six & <seven>', at: thursdayNoon + HOUR },
      { id: 1, title: 'Older', preview: '', at: thursdayNoon },
    ]
    const url = 'https://porch.example.com/letters'
    const atom = atomOf({
      title: 'Emails from Ines & co', url, feedUrl: `${url}/feed.xml`, to: ({ id }) => `${url}/${id}`, author: 'Ines', letters, madeAt: 0,
    })
    const read = await new Parser().parseString(atom)
    expect([read.title, read.link, read.feedUrl]).toEqual(['Emails from Ines & co', url, `${url}/feed.xml`])
    expect(read.items.map(({ title, link, isoDate }) => [title, link, Date.parse(isoDate!)])).toEqual(
      letters.map(({ id, title, at }) => [title, `${url}/${id}`, at])
    )
    expect(atom).toMatch(/<id>https:\/\/porch\.example\.com\/letters\/2<\/id>/)
    expect(
      (await new Parser().parseString(atomOf({ title: 'x', url, feedUrl: url, to: () => url, author: 'x', letters: [], madeAt: 1 }))).items
    ).toEqual([])
  })
})
