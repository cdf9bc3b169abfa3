/**
 * The types of Vue components. What understands them is written in JavaScript and takes a minute; so each is written out as the script that
 * it checks, and the native compiler reads those, in a fifth of the time. Only where that finds something, the slow one is asked.
 */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { SourceMap, createParsedCommandLine, createVueLanguagePlugin, shouldReportDiagnostics } from '@vue/language-core'
import ts from 'typescript'
import { ROOT, run } from './say.mjs'

/** Both compilers bring a program of the name `tsc`, so this one is named by its path. */
export const NATIVE = join(ROOT, 'node_modules', 'typescript-native', 'bin', 'tsc')

/** Numbers of what is said of types. Whatever else it says, types may not have been looked at. */
const isOfTypes = code => code >= 2000 && code < 8000

/**
 * The script of a component. Arguments are written out on one line in it, so a comment of two slashes is closed at its end; in 3.3.14 the
 * slashes of an address are taken for one, too.
 */
const repaired = script => script.replace(/:\/\*(.*?)\*\//g, '://$1  ')

/** Writes the components below `from` out below `to`; returns each script’s mappings to its component, by its path. */
function writeOut(from, to, { options, vueOptions }) {
  const plugin = createVueLanguagePlugin(ts, options, vueOptions, id => id)
  return new Map(ts.sys.readDirectory(from, vueOptions.extensions, [], ['**/*']).map((path) => {
    const written = join(to, relative(from, path))
    // It names the types that it needs as seen from where it stands.
    const component = plugin.createVirtualCode(written, 'vue', ts.ScriptSnapshot.fromString(readFileSync(path, 'utf8')))
    const { code: { snapshot, mappings }, extension } = plugin.typescript.getServiceScript(component)
    const script = repaired(snapshot.getText(0, snapshot.getLength()))
    mkdirSync(dirname(written), { recursive: true })
    writeFileSync(written + extension, script)
    return [written + extension, { map: new SourceMap(mappings), lines: ts.computeLineStarts(script) }]
  }))
}

/** Whether it is said of something that stands in the component, and not of what was written around it. */
function isOfComponent({ map, lines }, line, column, code) {
  const filter = feature => shouldReportDiagnostics(feature, undefined, code)
  return !map.toSourceLocation(lines[line - 1] + column - 1, filter).next().done
}

/**
 * What the native compiler says of the components and scripts of a project, whose paths with `~` begin in its folder; nothing is an empty
 * list. `scratch` is a folder, made anew, in which they are written out.
 */
export async function faultsOfComponents(project, scratch) {
  const parsed = createParsedCommandLine(ts, ts.sys, project)
  const folder = dirname(project)
  const here = path => relative(scratch, path)
  rmSync(scratch, { recursive: true, force: true })
  const written = join(scratch, 'scripts')
  const scripts = writeOut(folder, written, parsed)
  const { include, compilerOptions: { paths = {} } } = parsed.raw
  writeFileSync(join(scratch, 'tsconfig.json'), JSON.stringify({
    extends: here(project),
    compilerOptions: {
      rootDirs: [here(folder), here(written)],
      paths: Object.fromEntries(Object.entries(paths).map(([name, places]) => [name, [
        ...places.map(place => `./${here(resolve(folder, place))}`), ...name === '~/*' ? ['./scripts/*'] : [],
      ]])),
    },
    include: ['scripts/**/*', ...include.filter(place => !place.endsWith('.vue')).map(place => here(join(folder, place)))],
  }))
  const heard = []
  const code = await run(process.execPath, [NATIVE, '-p', scratch, '--pretty', 'false'], { hear: chunk => heard.push(chunk) })
  const said = Buffer.concat(heard).toString().split('\n').filter(line => line !== '' && !/^\s/.test(line))
  const faults = said.filter((fault) => {
    const [, path, line, column, number] = /^(.+)\((\d+),(\d+)\): error TS(\d+): /.exec(fault) ?? []
    const script = path && scripts.get(resolve(ROOT, path))
    return !script || !isOfTypes(Number(number)) || isOfComponent(script, Number(line), Number(column), number)
  })
  return code !== 0 && said.length === 0 ? [`the compiler ended with ${code}`] : faults
}
