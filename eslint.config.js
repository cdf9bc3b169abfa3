/** What is said of components: their templates, and how Vue is used. What scripts may say, theirs too, stands in .oxlintrc.json. */
import ts from 'typescript-eslint'
import vue from 'eslint-plugin-vue'
import vueParser from 'vue-eslint-parser'
import { longLines } from './tools/longLines.mjs'

export default ts.config(...vue.configs['flat/recommended'], {
  files: ['app/**/*.vue'],
  plugins: { porch: { rules: { 'long-lines': longLines } } },
  // Of what browsers bring along, no rule asks; listing it takes a fifth of the time.
  languageOptions: { parser: vueParser, parserOptions: { parser: ts.parser, lib: [] } },
  rules: {
    'porch/long-lines': 'error',
    'vue/max-attributes-per-line': 'off',
    // A space beside a tag is seen inside a line; whether there is one is the writer's word.
    'vue/singleline-html-element-content-newline': 'off',
    'vue/multiline-html-element-content-newline': 'off',
    'vue/html-self-closing': ['error', { html: { void: 'always' } }],
    'vue/multi-word-component-names': 'off',
    'vue/first-attribute-linebreak': 'off',
    'vue/html-closing-bracket-newline': 'off',
    'vue/require-default-prop': 'off',
    'vue/attributes-order': 'off',
    'vue/html-indent': ['error', 2],
    'vue/no-v-html': 'error',
  },
})
