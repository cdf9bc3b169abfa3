/** `npm run bench`: builds and runs the benchmarks; `-- --write` keeps what they print in docs/benchmarks.md. */
import { join } from 'node:path'
import { install } from './install.mjs'
import { ROOT, main, run } from './say.mjs'

await main(async () => {
  await install()
  const esbuild = await import('esbuild')
  const outdir = join(ROOT, 'node_modules', '.cache', 'bench')
  await esbuild.build({
    absWorkingDir: ROOT, entryPoints: ['bench/main.ts', 'bench/process.ts'], outdir, outExtension: { '.js': '.mjs' },
    bundle: true, packages: 'external', platform: 'node', format: 'esm', target: 'node20.19', logLevel: 'warning',
  })
  process.exitCode = await run(process.execPath, [join(outdir, 'main.mjs'), ...process.argv.slice(2)])
})
