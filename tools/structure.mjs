/**
 * Who imports whom. Run it after the shape has changed: node tools/structure.mjs draws docs/structure.svg. A test asks the same for
 * circles, and for the layers of what use cases share.
 */
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { instance } from '@viz-js/viz'
import { cruise } from 'dependency-cruiser'
import { ROOT, main, say } from './say.mjs'

const ROOMS = ['core', 'data', 'usecases', 'adapters', 'standins', 'runtime', 'engine', 'server', 'app', 'demo']
/** What use cases share, from the lowest up: each imports only what stands before it. */
export const LAYERS = ['facts', 'journeys', 'actions', 'reactor']

/** Every module of ours, and each of its imports, of types as well as of values: `[from, to]`, from the root. Also every circle. */
export async function imports() {
  const { output } = await cruise(
    ROOMS,
    {
      baseDir: ROOT, exclude: { path: 'node_modules' }, tsPreCompilationDeps: true, validate: true,
      ruleSet: { forbidden: [{ name: 'circle', severity: 'error', from: {}, to: { circular: true } }] },
    },
    {
      alias: { '~': join(ROOT, 'app') }, conditionNames: ['import', 'require', 'node', 'default'], exportsFields: ['exports'],
      extensions: ['.ts', '.vue', '.mjs', '.js', '.json'],
    },
  )
  return {
    modules: output.modules.map(({ source }) => source).filter(source => ROOMS.includes(source.split('/')[0])),
    edges: output.modules.flatMap(({ source, dependencies }) => dependencies.map(({ resolved }) => [source, resolved])),
    circles: output.summary.violations.map(({ from, cycle }) => [from, ...cycle.map(({ name }) => name)].join(' → ')),
  }
}

/** The layer of a module of `usecases/inner`; the lowest, of what merely reads, has no folder of its own. Null for any other. */
export function layerOf(module) {
  const [, layer] = /^usecases\/inner\/(?:(\w+)\/)?[^/]+$/.exec(module) ?? []
  return module.startsWith('usecases/inner/') ? layer ?? 'reading' : null
}

/** The box that a module is drawn in. */
function boxOf(module) {
  const [room] = module.split('/')
  if (room !== 'usecases') return ROOMS.includes(room) ? room : null
  if (/^usecases\/\w+\.ts$/.test(module)) return 'context and refusals'
  return layerOf(module) ?? (/^usecases\/(views|today)\//.test(module) ? 'views and Today' : 'use cases')
}

async function draw() {
  const { modules, edges, circles } = await imports()
  const sizeOf = name => modules.filter(module => boxOf(module) === name).length
  const between = new Map()
  for (const [from, to] of edges) {
    const [a, b] = [boxOf(from), boxOf(to)]
    if (a && b && a !== b) between.set(`${a}>${b}`, (between.get(`${a}>${b}`) ?? 0) + 1)
  }
  const box = name => `"${name}" [label="${name}\\n${sizeOf(name)} files"]`
  const inner = ['reading', ...LAYERS]
  const dot = `digraph rooms {
    graph [rankdir=TB, bgcolor="#fdfaf4", fontname="sans-serif", pad=0.3, nodesep=0.35, ranksep=0.6]
    node [shape=box, style="rounded,filled", fillcolor="#ffffff", color="#41525c", fontname="sans-serif", fontsize=13]
    edge [color="#7b8a91", fontname="sans-serif", fontsize=10, fontcolor="#41525c"]
    ${ROOMS.filter(room => room !== 'usecases').map(box).join('\n')}
    subgraph cluster_usecases {
      label="usecases"; style="rounded,filled"; fillcolor="#eef3f1"; color="#41525c"
      ${['use cases', 'views and Today', 'context and refusals'].map(box).join('\n')}
      subgraph cluster_inner { label="inner: each layer imports only those below it"; fillcolor="#e0eae6"; ${inner.map(box).join('\n')} }
    }
    ${[...between].map(([pair, n]) => `"${pair.replace('>', '" -> "')}" [label="${n}", penwidth=${(0.6 + Math.log10(n)).toFixed(1)}]`).join('\n')}
  }`
  const viz = await instance()
  writeFileSync(join(ROOT, 'docs', 'structure.svg'), viz.renderString(dot, { format: 'svg' }))
  say(`${modules.length} modules, ${edges.length} imports, ${circles.length} circles.`)
  for (const circle of circles) say(circle)
}

if (process.argv[1] === import.meta.filename) await main(draw)
