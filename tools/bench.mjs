/** `npm run bench`: builds and runs the benchmarks; `-- --write` keeps what they print in docs/benchmarks.md. */
import { join } from 'node:path'
import { install } from './install.mjs'
import { ROOT, main, run } from './say.mjs'

await main(async () => {
  await install()
  const { bundle } = await import('./bundle.mjs')
  const outdir = join(ROOT, 'node_modules', '.cache', 'bench')
  await bundle({ root: ROOT, outdir, entryPoints: {
    main: 'bench/main.ts', process: 'bench/process.ts', smtp: 'adapters/smtpThread.ts',
  } })
  process.exitCode = await run(process.execPath, [join(outdir, 'main.mjs'), ...process.argv.slice(2)])
})
