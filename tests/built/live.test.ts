import PostalMime from 'postal-mime'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { SubscriberView, SubscribersView } from '#core/views/people'
import { TestServer } from '../service/smtpServer'
import { furnish, open } from './furnished'
import { Porch, until } from './porch'

let porch: Porch
const server = new TestServer({})
beforeAll(async () => {
  porch = await (await Porch.start({ PORCH_SMTP_URL: await server.listen(), PORCH_BASE_URL: 'https://porch.example.com', PORCH_TRUST_PROXY: '1' })).ready()
  await porch.signIn()
})
afterAll(async () => {
  await porch.stop()
  await server.close()
})

it('going live copies what was made and nobody, and the same course leaves by real mail within five seconds', async () => {
  const made = await furnish(porch)
  await porch.optIn('sheet-kit', { email: 'practice-only@example.com' })
  expect(await porch.do('POST', 'carrier/try', { smtpUrl: null })).toEqual({ problem: null })
  await porch.do('POST', 'live', { smtpUrl: null })
  expect((await porch.api('POST', 'live', { smtpUrl: null })).status).toBe(409)

  porch.mode = 'live'
  expect((await porch.do<SubscribersView>('GET', 'subscribers')).rows.length).toBe(0)
  expect((await porch.fetch('/p/sheet-kit')).status).toBe(404)
  await open(porch, made)
  expect((await porch.fetch('/p/sheet-kit')).status).toBe(200)
  expect((await porch.api('POST', 'clock', { by: 'hour' })).status).toBe(409)

  // Sign-ups one after another: how long from the press of the button until the server has the email.
  const waits: number[] = []
  for (let n = 0; n < 30; n++) {
    const began = Date.now()
    const answer = await porch.optIn('sheet-kit', { email: `real${n}@example.com`, first_name: `Olá ${n}` }, { 'x-forwarded-for': `198.51.100.${n}` })
    expect(answer.status).toBe(303)
    await until(async () => server.delivered.some(mail => mail.to[0] === `real${n}@example.com`), `mail to ${n}`)
    waits.push(Date.now() - began)
  }
  waits.sort((a, b) => a - b)
  console.info(`at-once mail, from the button to the mail server: median ${waits[15]} ms, slowest of 30 ${waits[29]} ms`)
  expect(waits[29]).toBeLessThan(5000)

  expect(server.delivered).toHaveLength(30)
  expect(server.delivered.some(mail => mail.to[0]!.startsWith('practice-only'))).toBe(false)
  const mail = await PostalMime.parse(server.delivered[0]!.source)
  expect(mail).toMatchObject({ subject: 'One, Olá 0', to: [{ name: 'Olá 0', address: 'real0@example.com' }] })
  expect(mail.text).toContain('https://porch.example.com/l/')

  // A real reader leaves by one press of their mail program: nothing more is planned for them.
  const way = /https:\/\/porch\.example\.com(\/m\/[\w.-]+)/.exec(mail.text!)![1]!
  await porch.fetch(way, { method: 'POST', body: new URLSearchParams({ 'List-Unsubscribe': 'One-Click' }) })
  const { rows } = await porch.do<SubscribersView>('GET', 'subscribers?search=real0@')
  const { person, courses } = await porch.do<SubscriberView>('GET', `subscribers/${rows[0]!.id}`)
  expect([person.status, courses[0]!.status, courses[0]!.nextAt]).toEqual(['unsubscribed', 'left', null])
})
