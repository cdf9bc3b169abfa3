/** `npm run bench`: builds and runs the benchmarks; `-- --write` keeps what they print in docs/benchmarks.md. */
import { join } from 'node:path'
import { build } from './build.mjs'
import { install } from './install.mjs'
import { ROOT, main, run } from './say.mjs'

await main(async () => {
  await install()
  // The public page is measured at the application itself, which would otherwise be built while it is waited for.
  await build()
  const { bundle } = await import('./bundle.mjs')
  const outdir = join(ROOT, 'node_modules', '.cache', 'bench')
  await bundle({ root: ROOT, outdir, entryPoints: {
    main: 'bench/main.ts', process: 'bench/process.ts', smtp: 'adapters/smtpThread.ts',
  } })
  process.exitCode = await run(process.execPath, [join(outdir, 'main.mjs'), ...process.argv.slice(2)])
})
