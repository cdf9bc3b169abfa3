import { Linter } from 'eslint'
import vueParser from 'vue-eslint-parser'
import { describe, expect, it } from 'vitest'
import { longLines } from '../../tools/longLines.mjs'

const plugins = { porch: { rules: { 'long-lines': longLines } } }
/** The numbers of the lines that are too long. */
const found = (code: string, filename = 'x.js') => new Linter().verify(code, [
  { files: ['*.js', '*.vue'], plugins, rules: { 'porch/long-lines': 'error' } },
  { files: ['*.vue'], languageOptions: { parser: vueParser } },
], { filename }).map(({ line }) => line)
const words = (letters: number) => 'word '.repeat(letters / 5)
const calls = (letters: number) => `${'x('.repeat(letters / 4)}1${')'.repeat(letters / 4)}${'+1'.repeat(letters / 8)}`

describe('the rule for long lines', () => {
  it.each([
    ['code', `f(${calls(160)})`, [1]],
    ['code with a short text in it', `f('a text', ${calls(160)})`, [1]],
    ['a comment', `// ${words(150)}`, [1]],
    ['code of 140', 'x'.repeat(140), []],
    ['one long text', `f('${words(150)}')`, []],
    ['one long text with something put in', `f(\`${words(100)}\${a}${words(50)}\`)`, []],
    ['a regular expression', `f(/${words(150)}/)`, []],
    ['a text of several lines', `f(\`\n${words(150)}\n\`)`, []],
    ['SQL', `f(\`SELECT a FROM b WHERE ${words(150)}\`)`, [1]],
    ['SQL on the second line', `f(\`SELECT a\n  FROM b WHERE ${words(150)}\`)`, [2]],
  ])('%s', (_, code, lines) => expect(found(code)).toEqual(lines))

  it.each([
    ['tags', `<p class="x">${'<b>a</b>'.repeat(20)}</p>`, [2]],
    ['a long text', `<p>${words(150)}</p>`, []],
    ['a long text of a tag', `<p title="${words(150)}" />`, []],
    ['many short texts of a tag', `<p ${'title="word" '.repeat(12)} />`, [2]],
    ['an expression', `<p :title="f(${calls(160)})" />`, [2]],
    ['a long text in an expression', `<p>{{ f('${words(150)}') }}</p>`, []],
  ])('%s in a component', (_, line, lines) => expect(found(`<template>\n${line}\n</template>\n`, 'x.vue')).toEqual(lines))
})
