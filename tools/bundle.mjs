/**
 * Bundles each program into few files with its packages: finding and reading several hundred files is slower than running them.
 */
import { fileURLToPath } from 'node:url'
import * as esbuild from 'esbuild'

/** Not bundled: native, with files or threads of their own, or never used (TypeScript only reads settings nobody writes). */
const APART = ['better-sqlite3', 'sharp', '@node-rs/argon2', 'pino', 'piscina', 'typescript']
/** As a package it is two hundred files; by itself in one, because few programs and threads ever need it. */
const MJML = 'mjml'

const common = root => ({
  absWorkingDir: root, outExtension: { '.js': '.mjs' }, bundle: true, platform: 'node', format: 'esm', target: 'node20.19',
  sourcesContent: false, logLevel: 'warning',
  // CommonJS packages call this.
  banner: { js: `import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);` },
})

/** Reading code is a good part of the time to start; names stay, for whoever reads what has failed. */
const smaller = { minifyWhitespace: true, minifySyntax: true }

/**
 * Where programs on a server find what is used of packages that are for browsers as well: of Vue only what it knows of refs, without what
 * draws and compiles; of D3 only what is asked for, not what changes a page as soon as it is read.
 */
const withoutPages = {
  name: 'without-pages',
  setup({ onResolve, resolve }) {
    onResolve({ filter: /(^|\/node_modules\/)vue(\/index\.mjs)?$/ }, ({ resolveDir }) =>
      resolve('@vue/reactivity', { kind: 'import-statement', resolveDir }))
    onResolve({ filter: /^d3(-|$)/ }, async ({ path, kind, resolveDir, pluginData }) => pluginData === 'd3'
      ? null
      : { ...await resolve(path, { kind, resolveDir, pluginData: 'd3' }), sideEffects: false })
  },
}

/** Where a package stands that is not bundled: by its name, but for MJML where that is bundled by itself, as seen from the programs. */
const apart = mjml => ({
  name: 'apart',
  setup({ onResolve }) {
    onResolve({ filter: /^[^.#~/]/ }, ({ path, kind }) => {
      if (kind === 'entry-point') return null
      // The web server's build names packages by their place on this machine.
      const file = path.startsWith('file:') ? fileURLToPath(path) : null
      const name = file?.split('/node_modules/').at(-1) ?? path
      const outside = [...APART, MJML].find(one => name === one || name.startsWith(`${one}/`))
      if (!outside) return file === null ? null : { path: file }
      return { path: outside === MJML ? mjml : file === null ? path : outside, external: true }
    })
  },
})

/**
 * What only some of them need stands in parts of its own, and so does what few of their users ask for.
 *
 * `entryPoints`: output names in `outdir`, without extension, and their sources. `mjml`: where the programs find MJML, as a package if
 * nothing is said.
 */
export function bundle({ root, entryPoints, outdir, sourcemap = false, mjml = MJML }) {
  return esbuild.build({
    ...common(root), ...smaller, entryPoints, outdir, sourcemap, splitting: true, chunkNames: 'part-[hash]',
    plugins: [withoutPages, apart(mjml)],
  })
}

/** The web server as it was built, beside itself: what only some requests need is loaded with the first of them. */
export function bundleWeb({ root, entryPoint, outfile, mjml }) {
  const [outdir, name] = [outfile.slice(0, outfile.lastIndexOf('/')), outfile.slice(outfile.lastIndexOf('/') + 1, -'.mjs'.length)]
  return esbuild.build({
    ...common(root), entryPoints: { [name]: entryPoint }, outdir, splitting: true, chunkNames: `${name}-[name]-[hash]`,
    ...smaller, sourcemap: true, plugins: [withoutPages, apart(mjml)],
  })
}

export function bundleMjml({ root, outfile }) {
  return esbuild.build({
    ...common(root), stdin: { contents: `export { default } from '${MJML}'`, resolveDir: root }, outfile, external: APART, minify: true,
  })
}
