/** That types are checked in components, too: what is wrong in one is found wherever it stands, and nothing else. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { onTestFinished, expect, it } from 'vitest'
import { faultsOfComponents } from '../../tools/components.mjs'

const RESULTS = join(import.meta.dirname, '../../test-results')

/** A project with these files; what is found in it by file, with its number and the name that it is about. */
async function found(files: Record<string, string>): Promise<Record<string, string[]>> {
  // Where the packages are found that it imports.
  mkdirSync(RESULTS, { recursive: true })
  const folder = mkdtempSync(join(RESULTS, 'components-'))
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }))
  writeFileSync(join(folder, 'tsconfig.json'), JSON.stringify({
    extends: '../../tsconfig.base.json', compilerOptions: { lib: ['ES2023', 'DOM'], jsx: 'preserve', paths: { '~/*': ['./*'] } },
    include: ['./**/*.ts', './**/*.vue'],
  }))
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text)
  const by: Record<string, string[]> = {}
  for (const fault of await faultsOfComponents(join(folder, 'tsconfig.json'), join(folder, 'scratch'))) {
    const [, name = '', number, about] = /(\w+\.\w+)(?:\.ts)?\(\d+,\d+\): error TS(\d+): [^']*(?:'([^']*)')?/.exec(fault) ?? []
    ;(by[name] ??= []).push(`${number} ${about}`)
  }
  return by
}

const component = (script: string, template: string) =>
  `<script setup lang="ts">\n${script}\n</script>\n\n<template>\n  ${template}\n</template>\n`
const BUTTON = component(
  `defineProps<{ title: string, size?: 'small' | 'large' }>()\nconst emit = defineEmits<{ pick: [id: number] }>()`,
  `<button @click="emit('pick', 1)">{{ title }}</button>`,
)

it('finds what is wrong in scripts, templates and what imports them, whatever stands before it, and nothing of what is right', async () => {
  expect(await found({
    'Button.vue': BUTTON,
    'Right.vue': component(
      `import Button from '~/Button.vue'\nconst big = true\nconst take = (id: number) => id`,
      `<Button title="a" :size="big ? 'large' : 'small'" @pick="take" /><input placeholder="https://example.com/a" autofocus>`,
    ),
    'Script.vue': component(`const n: number = 'one'\nconst left = 2`, '<p>{{ n }}</p>'),
    'Template.vue': component(`const thing = { a: 1 }`, `<p title="Für 😀 “Ω”">“Ψ😀” {{ thing.a }} “ü” {{ thing.bogus }}</p>`),
    'Prop.vue': component(`import Button from './Button.vue'`, `<Button placeholder="https://example.com/a" :title="3" size="huge" />`),
    'Needed.vue': component(`import Button from './Button.vue'`, '<Button />'),
    'Event.vue': component(`import Button from './Button.vue'\nconst take = (id: string) => id`, '<Button title="a" @pick="take" />'),
    'script.ts': `import Button from '~/Button.vue'\nexport const title: InstanceType<typeof Button>['$props']['title'] = 3\n`,
  })).toEqual({
    'Script.vue': [`2322 string`, `6133 left`], 'Template.vue': ['2339 bogus'], 'Prop.vue': ['2322 number', '2322 "huge"'],
    'Needed.vue': ['2345 {}'], 'Event.vue': ['2322 (id: string) => string'], 'script.ts': ['2322 number'],
  })
})

it('says so where a template is no script at all, and where the compiler cannot read the project', async () => {
  expect(await found({ 'Broken.vue': component('const a = 1', '<p :title="a +">a</p>') })).toEqual({ 'Broken.vue': ['1003 undefined'] })
  const project = { extends: './nothing.json', compilerOptions: {}, include: ['./**/*.ts'] }
  expect(Object.keys(await found({ 'Button.vue': BUTTON, 'tsconfig.json': JSON.stringify(project) }))).toEqual([''])
})
