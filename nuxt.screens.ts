/** The application's screens: their addresses, and the parts each of them is made of, so that the server can name both. */
import type { NuxtPage } from 'nuxt/schema'

interface Part {
  file: string, src?: string, isEntry?: boolean, prefetch?: boolean, preload?: boolean, imports?: string[], dynamicImports?: string[],
  css?: string[]
}

/** The fonts of every screen. A browser would request them only after drawing text without them, and then draw it again. */
const FONTS = ['atkinson-hyperlegible-next-latin-wght-normal', 'bricolage-grotesque-latin-wght-normal', 'primeicons']

/** The sources that every screen needs once the application has started. */
const AROUND = ['app/layouts/default.vue', 'app/theme/primevue.ts']

/** A file smaller than this is joined with others where that is possible. */
const SMALL_BYTES = 16_000

/** What the bundler knows about the modules. */
interface Graph {
  getModuleIds(): Iterable<string>
  getModuleInfo(id: string): { isEntry: boolean, importedIds: readonly string[] } | null
}

export class Screens {
  #screens: { path: string, file: string }[] = []
  /** What was built, by the name of its source. */
  #parts: Record<string, Part> = {}
  /** The modules needed to start the application. */
  #start: Set<string> | undefined
  /** The modules that all or most screens need besides. */
  #shared: Set<string> | undefined
  /** The built file that a source came to stand in: small ones stand together, under the name of one of them. */
  #fileOf = new Map<string, string>()

  takePages(pages: NuxtPage[]): void {
    const under = (pages: NuxtPage[], above: string): { path: string, file: string }[] => pages.flatMap((page) => {
      const path = page.path.startsWith('/') ? page.path : `${above}/${page.path}`
      return page.children?.length ? under(page.children, path) : [{ path, file: page.file! }]
    })
    this.#screens = under(pages, '')
  }

  /**
   * Options of the bundler. Everything that all or most screens need goes into one file: twenty small ones took longer to request than to
   * read. What remains is divided by the bundler, but not into some fifty files of a kilobyte each.
   */
  files() {
    return {
      manualChunks: (id: string, graph: Graph) => this.#fileFor(id, graph), onlyExplicitManualChunks: true,
      experimentalMinChunkSize: SMALL_BYTES,
    }
  }

  /** The name of the built file for a module; undefined leaves it to the bundler. */
  #fileFor(id: string, graph: Graph): string | undefined {
    const ids = () => [...graph.getModuleIds()]
    const importsOf = (id: string) => graph.getModuleInfo(id)?.importedIds ?? []
    const start = this.#start ??= reachedFrom(ids().filter(id => graph.getModuleInfo(id)?.isEntry), importsOf)
    this.#shared ??= this.#sharedModules(ids(), importsOf, start)
    return start.has(id) ? 'entry' : this.#shared.has(id) ? 'shared' : undefined
  }

  #sharedModules(ids: readonly string[], importsOf: (id: string) => readonly string[], start: ReadonlySet<string>): Set<string> {
    const around = reachedFrom(ids.filter(id => AROUND.some(source => id.endsWith(source))), importsOf, start)
    const screensOf = new Map<string, number>()
    for (const { file } of this.#screens) {
      for (const id of reachedFrom([file], importsOf, start)) screensOf.set(id, (screensOf.get(id) ?? 0) + 1)
    }
    return new Set([...around, ...[...screensOf.keys()].filter(id => screensOf.get(id)! > this.#screens.length / 2)])
  }

  takeFiles(built: Record<string, { fileName: string, moduleIds?: string[] }>): void {
    for (const { fileName, moduleIds = [] } of Object.values(built)) {
      for (const source of moduleIds) this.#fileOf.set(source, fileName.replace(/^_nuxt\//, ''))
    }
  }

  /**
   * What every screen needs is asked for at once, with the first script, and nothing is fetched ahead that may not be needed: it would take
   * its turn before the screen.
   */
  takeParts(manifest: Record<string, Part>): void {
    this.#parts = manifest
    for (const part of Object.values(manifest)) {
      part.prefetch = false
      part.preload ||= FONTS.some(font => part.file.startsWith(`${font}.`) && part.file.endsWith('.woff2'))
    }
    const first = AROUND.map(source =>
      this.#partOf([...this.#fileOf.keys()].find(known => known.endsWith(source)) ?? source))
    const entry = manifest[this.#entry]!
    entry.dynamicImports = []
    entry.imports = [...entry.imports ?? [], ...first]
  }

  /** A module of the server. */
  toModule(): string {
    const known = this.#closure(this.#entry)
    return `export const SCREENS = ${JSON.stringify(this.#screens.map(({ path, file }) => ({ path, parts: this.#partsOf(file, known) })))}`
  }

  get #entry(): string {
    return Object.keys(this.#parts).find(name => this.#parts[name]!.isEntry)!
  }

  /** The addresses of what a screen is made of, besides what is `known` anyway. */
  #partsOf(file: string, known: Set<string>): string[] {
    const own = [...this.#closure(this.#partOf(file))].filter(name => !known.has(name)).map(name => this.#parts[name]!)
    return [...new Set(own.flatMap(({ file, css = [] }) => [...css, file]))].map(name => `/_nuxt/${name}`)
  }

  /** The part that a source is in. A source may share a part with others, under the name of one of them or of none. */
  #partOf(source: string): string {
    const part = Object.keys(this.#parts).find(name => this.#parts[name]!.file === this.#fileOf.get(source))
    if (!part) throw new Error(`Nothing was built of ${source}`)
    return part
  }

  /** A part and all that it cannot begin without. */
  #closure(name: string): Set<string> {
    return reachedFrom([name], name => this.#parts[name]?.imports ?? [])
  }
}

/** What is in `from` and everything it imports, except for what is in `known`. */
function reachedFrom(
  from: readonly string[], importsOf: (id: string) => readonly string[], known: ReadonlySet<string> = new Set(), seen = new Set<string>(),
): Set<string> {
  for (const id of from) {
    if (known.has(id) || seen.has(id)) continue
    seen.add(id)
    reachedFrom(importsOf(id), importsOf, known, seen)
  }
  return seen
}
