/** Whether the addresses in an email answer, asked while it is written. */
import { describe, expect, it } from 'vitest'
import { checkUrls, MOST_URLS } from '#usecases/know/checkUrls'
import { furnish, openContext } from './workshop'

async function asking() {
  const { context } = await furnish(openContext())
  const asked: string[] = []
  const system = { at: Date.UTC(2026, 10, 30) }
  context.system = { now: () => system.at }
  context.linkChecker = { check: async (url) => {
    asked.push(url)
    return url.includes('gone') ? 'it says the page does not exist (404)' : null
  } }
  return { context, asked, system }
}

describe('addresses in an email', () => {
  it('are asked once in a while, and those that do not answer are told with the reason', async () => {
    const { context, asked, system } = await asking()
    const urls = [
      'https://a.example.com/', 'https://a.example.com/gone', 'https://a.example.com/gone', 'mailto:ines@example.com', 'https://',
    ]
    const dead = [{ url: 'https://a.example.com/gone', problem: 'it says the page does not exist (404)' }]
    expect(await checkUrls(context, urls)).toEqual(dead)
    expect(await checkUrls(context, urls)).toEqual(dead)
    expect(asked.sort()).toEqual(['https://a.example.com/', 'https://a.example.com/gone'])
    system.at += 11 * 60_000
    await checkUrls(context, urls)
    expect(asked).toHaveLength(4)
  })

  it('of our own are known without asking: a page that is published, and one that is not there', async () => {
    const { context, asked } = await asking()
    const own = ['sheet-kit', 'sheet-kit?from=letter', 'nothing'].map(slug => `${context.baseUrl}/p/${slug}`)
    expect((await checkUrls(context, [...own, `${context.baseUrl}/i/1-mail.jpg`])).map(({ url }) => url)).toEqual([own[2]])
    expect(asked).toEqual([])
  })

  it('are never more than a few at a time, whatever is sent', async () => {
    const { context, asked } = await asking()
    await checkUrls(context, Array.from({ length: 400 }, (_, n) => `https://a.example.com/${n}`))
    expect(asked).toHaveLength(MOST_URLS)
  })
})
