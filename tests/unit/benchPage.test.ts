import { describe, expect, it } from 'vitest'
import { partRenewed, wholeRenewed } from '../../bench/page'

const PAGE = `# Benchmarks

Measured on some day.

## Counting

old

## By hand

| kept | 1 |

## Courses

old steps
`
const LONG = 'word '.repeat(60).trim()

describe('the page that keeps what was measured', () => {
  it('renews what was measured, and leaves what is measured otherwise where it stands', () => {
    const lines = ['200 people.', '\n## Counting\n\n| a | b |', '\n## Courses\n', LONG, 'Second line.', '\n## New\n\nx']
    const page = wholeRenewed(PAGE, lines, '2026-12-01')
    expect(page.match(/^## .+$/gm)).toEqual(['## Counting', '## By hand', '## Courses', '## New'])
    expect(page).toMatch(/^# Benchmarks\n\n`npm run bench` prints these[\s\S]+measured on 2026-12-01[\s\S]+\n\n200 people\.\n\n## Counting/)
    expect(page).toContain('\n\n## Counting\n\n| a | b |\n\n## By hand\n\n| kept | 1 |\n\n## Courses\n\n')
    expect(page).not.toContain('old')
    expect(page.split('\n').every(line => line.length <= 140)).toBe(true)
    expect(page.replaceAll('\n', ' ')).toContain(`${LONG} Second line.`)
  })

  it('renews one section alone, and says when', () => {
    const page = partRenewed(PAGE, 'Courses', ['5,745 a second.'], '2026-12-01')
    expect(page).toBe(PAGE.replace('old steps', 'Measured on 2026-12-01.\n\n5,745 a second.'))
    expect(partRenewed(page, 'Courses', ['5,745 a second.'], '2026-12-01')).toBe(page)
  })
})
