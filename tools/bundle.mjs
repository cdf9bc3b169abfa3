/**
 * Bundles each program beside the web server into one file with its packages: finding and reading several hundred files is slower than
 * running them.
 */
import * as esbuild from 'esbuild'

/** Not bundled: native, with files or threads of their own, or loaded only when needed. */
const APART = ['better-sqlite3', 'sharp', '@node-rs/argon2', 'pino', 'piscina', 'mjml']

/** `entryPoints`: output names in `outdir`, without extension, and their sources. */
export function bundle({ root, entryPoints, outdir, sourcemap = false }) {
  return esbuild.build({
    absWorkingDir: root, entryPoints, outdir, outExtension: { '.js': '.mjs' }, bundle: true, external: APART, platform: 'node',
    format: 'esm',
    target: 'node20.19', sourcemap, sourcesContent: false, logLevel: 'warning',
    // CommonJS packages call this.
    banner: { js: `import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);` },
  })
}
