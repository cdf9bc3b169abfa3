/** The page that keeps what was measured. Its sections are renewed one by one: some of them are measured otherwise, and stay. */

const WIDTH = 140

/** Texts by the headings they stand under; what comes before the first heading is under the empty one. */
function sectionsOf(page: string): Map<string, string> {
  const [before = '', ...sections] = page.split(/^## /m)
  return new Map([['', before.trim()], ...sections.map((section): [string, string] => {
    const end = section.indexOf('\n')
    return [section.slice(0, end), section.slice(end).trim()]
  })])
}

const pageOf = (sections: Map<string, string>): string =>
  `${[...sections].map(([heading, text]) => heading === '' ? text : `## ${heading}\n\n${text}`).join('\n\n')}\n`

/** A line of prose in lines of at most {@link WIDTH} characters; a row of a table stays one line. */
const wrapped = (line: string): string => line.startsWith('|') ? line : line.replace(
  new RegExp(`(.{1,${WIDTH}})(?: +|$)`, 'g'), (_, words: string) => `${words}\n`,
).trimEnd()

const textOf = (lines: readonly string[]): string => lines.join('\n').split('\n').map(wrapped).join('\n')

/** The page after everything was measured on that day. */
export function wholeRenewed(page: string, lines: readonly string[], on: string): string {
  const measured = sectionsOf(textOf(lines))
  const intro = wrapped([
    `\`npm run bench\` prints these, \`npm run bench -- --write\` keeps them here. They were measured on ${on}.`,
    'Each is a ratio of two ways in one run, or a time beside the promise of the design; a slower machine changes the times and hardly',
    'the ratios.',
  ].join(' '))
  const sections = new Map([...sectionsOf(page), ...measured])
  return pageOf(sections.set('', `# Benchmarks\n\n${intro}\n\n${measured.get('')}`))
}

/** The page after only one section was measured on that day. */
export function partRenewed(page: string, heading: string, lines: readonly string[], on: string): string {
  return pageOf(sectionsOf(page).set(heading, `Measured on ${on}.\n\n${textOf(lines)}`))
}
