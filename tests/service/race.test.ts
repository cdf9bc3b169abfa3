/** Many buyers at the same instant, in processes of their own: what is limited is never sold beyond its limit. */
import { spawn } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { beforeAll, describe, expect, it } from 'vitest'
import { couponUses, placesTaken } from '#data/purchases'
import { buildChild } from './killing'
import { coupon, openShop } from './shop'
import { temporaryFolder } from '../temporary'
import { furnish, openContext } from './workshop'

const root = join(import.meta.dirname, '../..')
let child: string
beforeAll(async () => child = await buildChild('buyerChild'))

/** `processes` times ten buyers, let go at once. Returns what became of each. */
async function rush(folder: string, processes: number, code = ''): Promise<string[]> {
  const running = Array.from({ length: processes }, (_, p) => {
    const buyers = Array.from({ length: 10 }, (_, n) => `b${p}-${n}@example.com`).join(',')
    const one = spawn(process.execPath, [
      child,
    ], { cwd: root, env: { ...process.env, PORCH_DATA: folder, BUYERS: buyers, CODE: code }, stdio: ['pipe', 'pipe', 'inherit'] })
    const lines = createInterface({ input: one.stdout })[Symbol.asyncIterator]()
    return { one, lines }
  })
  for (const { lines } of running) expect((await lines.next()).value).toBe('ready')
  for (const { one } of running) one.stdin.write('go\n')
  return (await Promise.all(running.map(async ({ lines }) => JSON.parse((await lines.next()).value as string) as string[]))).flat()
}

async function shop(places: number | null) {
  const folder = temporaryFolder()
  mkdirSync(folder, { recursive: true })
  return { folder, ...await openShop(await furnish(openContext({ file: join(folder, 'practice.db') })), { places }) }
}
const tally = (outcomes: string[]) =>
  Object.fromEntries([...new Set(outcomes)].sort().map(outcome => [outcome, outcomes.filter(one => one === outcome).length]))

describe('fifty buyers at once', () => {
  it('who want the last ten places buy ten', async () => {
    const { context, offerId, folder } = await shop(10)
    expect(tally(await rush(folder, 5))).toEqual({ 'bought': 10, 'no place': 40 })
    expect(placesTaken(context.db, offerId, context.clock.now())).toMatchObject({ sold: 10, held: 0 })
    expect(context.db.prepare('SELECT count(*) AS purchases, count(DISTINCT person_id) AS people FROM purchases').get()).toEqual({
      purchases: 10, people: 10,
    })
  })

  it('who bring a coupon of seven uses use it seven times', async () => {
    const { context, offerId, folder } = await shop(null)
    const id = coupon(context, offerId, { uses: 7 })
    expect(tally(await rush(folder, 5, 'EARLY'))).toEqual({ bought: 7, code: 43 })
    expect(couponUses(context.db, id, context.clock.now())).toBe(7)
    // Each has a receipt, and no two the same number.
    expect(
      context.db.prepare('SELECT count(*) AS n, count(DISTINCT receipt_n) AS numbers, max(receipt_n) AS last FROM payments').get(),
    ).toEqual({ n: 7, numbers: 7, last: 7 })
  })
})
