/** Writes docs/guide/words.md from the glossary: `node tools/glossary.mjs`. A test says when it is to be written anew. */
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'esbuild'
import { ROOT, main, say } from './say.mjs'

await main(async () => {
  const built = await build({ entryPoints: [join(ROOT, 'core', 'glossary.ts')], bundle: true, format: 'esm', write: false })
  const { glossaryDocument } = await import(`data:text/javascript,${encodeURIComponent(built.outputFiles[0].text)}`)
  writeFileSync(join(ROOT, 'docs', 'guide', 'words.md'), glossaryDocument())
  say('Written: docs/guide/words.md')
})
