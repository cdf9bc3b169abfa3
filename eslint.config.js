import js from '@eslint/js'
import globals from 'globals'
import ts from 'typescript-eslint'
import vue from 'eslint-plugin-vue'
import vueParser from 'vue-eslint-parser'

export default ts.config(
  { ignores: ['.nuxt/', '.output/', 'dist/', 'var/', 'node_modules/', 'test-results/', 'playwright-report/'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    languageOptions: { globals: globals.node },
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'separate-type-imports', disallowTypeAnnotations: false }],
      'eqeqeq': 'error',
      // Long texts stay in one piece.
      'max-len': ['error', { code: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true }],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'Dice are arguments.' }],
    },
  },
  {
    files: ['app/**/*.vue'],
    languageOptions: { parser: vueParser, parserOptions: { parser: ts.parser }, globals: globals.browser },
    rules: {
      'max-len': 'off',
      'no-restricted-imports': ['error', { paths: [{ name: 'primevue/dialog', message: 'Use DialogBox: it does not steal the focus.' }] }],
      'vue/max-len': ['error', {
        code: 140, template: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true,
        ignoreHTMLTextContents: true, ignoreHTMLAttributeValues: true,
      }],
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
