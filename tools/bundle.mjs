/**
 * What runs beside the web server is one file each, its packages included: finding and reading several hundred files takes longer than what
 * stands in them.
 */
import * as esbuild from 'esbuild'

/** Compiled, with files or threads of their own, or read in only where they are needed. */
const APART = ['better-sqlite3', 'sharp', '@node-rs/argon2', 'pino', 'piscina', 'mjml']

/** `entryPoints`: a name for each file, without its ending, in `outdir`. */
export function bundle({ root, entryPoints, outdir, sourcemap = false }) {
  return esbuild.build({
    absWorkingDir: root, entryPoints, outdir, outExtension: { '.js': '.mjs' }, bundle: true, external: APART, platform: 'node', format: 'esm',
    target: 'node20.19', sourcemap, sourcesContent: false, logLevel: 'warning',
    // Older packages ask for others by this.
    banner: { js: `import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);` },
  })
}
