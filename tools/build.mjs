/** Builds the web server (Nuxt), the engine and the maker of the practice workspace (esbuild), if the source has changed. */
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { install } from './install.mjs'
import { PlainProblem, ROOT, bin, digestOf, main, run, say } from './say.mjs'

const STAMP = join(ROOT, 'dist', 'built')
const SOURCE = [
  'adapters', 'app', 'core', 'data', 'demo', 'engine', 'public', 'runtime', 'server', 'standins', 'usecases', 'nuxt.config.ts',
  'nuxt.controls.ts', 'nuxt.screens.ts', 'package.json', 'package-lock.json', 'tools/build.mjs', 'tools/bundle.mjs',
]

export const WEB = join(ROOT, '.output', 'server', 'web.mjs')
export const ENGINE = join(ROOT, 'dist', 'engine.mjs')
/** The web server's reading thread. */
const READER = join(ROOT, 'dist', 'reader.mjs')
/** Its thread for files and large bodies. */
const FILES = join(ROOT, 'dist', 'files.mjs')
/** Its thread that makes emails. */
const EMAILS = join(ROOT, 'dist', 'emails.mjs')
/** The engine's thread that speaks SMTP. */
const SMTP = join(ROOT, 'dist', 'smtp.mjs')
export const DEMO_MAKER = join(ROOT, 'dist', 'demo.mjs')

export async function build() {
  const wanted = digestOf(SOURCE)
  const made = [WEB, ENGINE, READER, FILES, EMAILS, SMTP, DEMO_MAKER]
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === wanted && made.every(existsSync)) return

  say('Building, about half a minute.')
  // Nuxt builds elsewhere where an earlier .nuxt is found.
  for (const folder of ['.nuxt', '.output', 'dist']) rmSync(join(ROOT, folder), { recursive: true, force: true })
  if (await run(bin('nuxt'), ['build', '--logLevel', 'silent'], { env: { NUXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' } }) !== 0) {
    throw new PlainProblem('The web server could not be built; the reason stands above.')
  }
  // It needs the installed packages.
  const { bundle, bundleMjml, bundleWeb } = await import('./bundle.mjs')
  await Promise.all([
    bundle({
      root: ROOT, outdir: 'dist', sourcemap: true, mjml: './mjml.mjs',
      entryPoints: {
        engine: 'engine/main.ts', smtp: 'adapters/smtpThread.ts', reader: 'server/reader/thread.ts', files: 'server/files/thread.ts',
        emails: 'adapters/emailThread.ts', demo: 'demo/main.ts',
      },
    }),
    bundleMjml({ root: ROOT, outfile: 'dist/mjml.mjs' }),
    bundleWeb({ root: ROOT, entryPoint: '.output/server/index.mjs', outfile: '.output/server/web.mjs', mjml: '../../dist/mjml.mjs' }),
  ])
  mkdirSync(join(ROOT, 'dist'), { recursive: true })
  writeFileSync(STAMP, wanted)
  say('Built.')
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await main(async () => {
    await install()
    await build()
  })
}
