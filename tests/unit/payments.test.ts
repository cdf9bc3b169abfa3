/** The stand-in finds our own endpoint, whatever the server listens on. */
import { expect, it } from 'vitest'
import { reachable } from '#runtime/payments'

it.each([
  ['localhost', 'localhost'], ['127.0.0.1', '127.0.0.1'], ['0.0.0.0', '127.0.0.1'], ['::', '[::1]'], ['::1', '[::1]'],
  ['fd00::7', '[fd00::7]'], ['porch.example.com', 'porch.example.com'],
])('a server on %s is reached at %s', (host, place) => {
  expect(new URL(`http://${reachable(host)}:3000/practice/hooks/payments`).hostname).toBe(place)
})
