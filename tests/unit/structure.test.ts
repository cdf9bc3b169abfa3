/** Who imports whom, as the whole program says it. */
import { beforeAll, describe, expect, it } from 'vitest'
import { imports, LAYERS, layerOf } from '../../tools/structure.mjs'

let found: Awaited<ReturnType<typeof imports>>
beforeAll(async () => {
  found = await imports()
})

it('reads all of it', () => {
  // Where it cannot read TypeScript it finds hardly a module, and no circle either.
  expect(found.modules.length).toBeGreaterThan(700)
  expect(found.edges.length).toBeGreaterThan(5 * found.modules.length)
})

it('goes in no circle, of values or of types', () => {
  expect(found.circles).toEqual([])
})

describe('what use cases share', () => {
  const order = ['reading', ...LAYERS]

  it('stands in layers, each of which imports only those below it', () => {
    const upwards = found.edges.map(([from, to]) => [from, layerOf(from), to, layerOf(to)] as const)
      .filter(([, from, , to]) => from !== null && to !== null && order.indexOf(to) > order.indexOf(from))
    expect(upwards.map(([from, , to]) => `${from} imports ${to}`)).toEqual([])
    expect(new Set(found.modules.map(layerOf))).toEqual(new Set([null, ...order]))
  })

  it('knows nothing of the use cases, and they nothing of the views', () => {
    const isUseCase = (module: string) => /^usecases\/(?!inner|views|today)\w+\//.test(module)
    const isView = (module: string) => /^usecases\/(views|today)\//.test(module)
    const trespasses = found.edges.filter(([from, to]) =>
      (layerOf(from) !== null && (isUseCase(to) || isView(to))) || (isUseCase(from) && isView(to)))
    // A copy of a list or a tag is made from what its screen shows of it.
    expect(trespasses.map(([from, to]) => `${from} imports ${to}`)).toEqual([
      'usecases/know/copyThing.ts imports usecases/views/listsAndTags.ts',
    ])
  })
})
