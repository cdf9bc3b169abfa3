/**
 * Every text a person may read, with its place: what stands in templates, and what programs say. `npm run texts` lists them; the lint of
 * phrases reads them, too. Names of operations, queries to the database and imports are no texts.
 */
import { readFileSync, readdirSync } from 'node:fs'
import { join, sep } from 'node:path'
import { fileURLToPath } from 'node:url'
import ts from 'typescript'
import { parse } from 'vue/compiler-sfc'
import { ROOT, main, say } from './say.mjs'

/** Where texts stand. What the demo and the templates say is somebody's own words; documents are read whole. */
const CODE = ['app', 'core', 'usecases', 'server', 'adapters', 'runtime', 'standins', 'engine']
const NO_TEXT = /^(SELECT|INSERT|UPDATE|DELETE|WITH|CREATE|PRAGMA|EXPLAIN|ANALYZE)\s|^(GET|PUT|POST|DELETE) \//
/** Attributes that nobody reads. */
const UNREAD = new Set(['class', 'style', 'd', 'viewBox', 'points', 'transform', 'to', 'href', 'type', 'autocomplete', 'rel', 'severity'])

/** The texts of one file: `{ file, line, text }`. What is put in stands as "…". */
export function textsOf(file) {
  const found = []
  const add = (line, text) => {
    const plain = text.replace(/\s+/g, ' ').trim()
    if (/\p{L}\p{L}/u.test(plain) && plain.includes(' ') && !NO_TEXT.test(plain)) found.push({ file, line, text: plain })
  }
  const source = readFileSync(join(ROOT, file), 'utf8')
  if (file.endsWith('.md')) source.split('\n').forEach((line, n) => add(n + 1, line))
  else if (file.endsWith('.vue')) ofComponent(source, add)
  else ofProgram(source, 0, add)
  return found
}

function ofProgram(source, before, add) {
  const file = ts.createSourceFile('x.ts', source, ts.ScriptTarget.Latest, true)
  const lineOf = node => before + file.getLineAndCharacterOfPosition(node.getStart()).line + 1
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isLiteralTypeNode(node)) return
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) add(lineOf(node), node.text)
    else if (ts.isTemplateExpression(node)) {
      add(lineOf(node), [node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)].join('…'))
      for (const { expression } of node.templateSpans) visit(expression)
      return
    }
    ts.forEachChild(node, visit)
  }
  visit(file)
}

function ofComponent(source, add) {
  const { descriptor: { script, scriptSetup, template } } = parse(source)
  for (const part of [script, scriptSetup]) if (part) ofProgram(part.content, part.loc.start.line - 1, add)
  const TEXT = 2, PUT_IN = 5, ATTRIBUTE = 6, DIRECTIVE = 7
  const visit = (node) => {
    if (node.type === TEXT) add(node.loc.start.line, node.content)
    if (node.type === PUT_IN) ofProgram(`(${node.content.loc.source})`, node.loc.start.line - 1, add)
    for (const one of node.props ?? []) {
      if (one.type === ATTRIBUTE && one.value && !UNREAD.has(one.name)) add(one.loc.start.line, one.value.content)
      if (one.type === DIRECTIVE && one.exp && !UNREAD.has(one.arg?.content)) {
        ofProgram(`(${one.exp.loc.source})`, one.loc.start.line - 1, add)
      }
    }
    for (const child of node.children ?? []) visit(child)
  }
  if (template) visit(template.ast)
}

const filesIn = folder => readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
  .map(name => `${folder}/${name.split(sep).join('/')}`)

export const allTexts = () => [
  ...CODE.flatMap(filesIn).filter(file => /\.(ts|vue)$/.test(file) && !file.endsWith('.d.ts')),
  ...filesIn('docs').filter(file => file.endsWith('.md')), 'README.md', 'CHANGELOG.md',
].flatMap(textsOf)

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await main(() => {
    for (const { file, line, text } of allTexts()) say(`${file}:${line}\t${text}`)
  })
}
