import js from '@eslint/js'
import globals from 'globals'
import ts from 'typescript-eslint'
import vue from 'eslint-plugin-vue'
import vueParser from 'vue-eslint-parser'
import { longLines } from './tools/longLines.mjs'

export default ts.config(
  { ignores: ['.nuxt/', '.output/', 'dist/', 'var/', 'node_modules/', 'test-results/', 'playwright-report/'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    languageOptions: { globals: globals.node },
    plugins: { porch: { rules: { 'long-lines': longLines } } },
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'separate-type-imports', disallowTypeAnnotations: false }],
      'eqeqeq': 'error',
      'porch/long-lines': 'error',
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'Dice are arguments.' }],
    },
  },
  {
    files: ['app/**/*.vue'],
    languageOptions: { parser: vueParser, parserOptions: { parser: ts.parser }, globals: globals.browser },
    rules: {
      'no-restricted-imports': ['error', { paths: [{ name: 'primevue/dialog', message: 'Use DialogBox: it does not steal the focus.' }] }],
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
  },
  {
    files: ['server/**/*.ts'],
    ignores: ['server/joi.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': ['error', {
        paths: [{ name: 'joi', allowTypeImports: true, message: 'Use server/joi: it speaks plainly.' }],
      }],
    },
  },
  // What has changed databases somewhere is not touched again.
  { files: ['data/migrations/*.ts'], rules: { 'porch/long-lines': 'off' } },
  { files: ['app/**/*.ts', 'public/**/*.js'], languageOptions: { globals: globals.browser } },
  {
    files: ['core/**/*.ts'],
    rules: {
      // What is not pure does not belong in core: time, dice and machines are arguments.
      'no-restricted-globals': ['error', 'Date', 'process', 'fetch', 'setTimeout', 'setInterval', 'crypto'],
      'no-restricted-imports': ['error', { patterns: [{ regex: '^(node:|vue|nuxt|h3)', message: 'core is pure.' }] }],
    },
  },
)
