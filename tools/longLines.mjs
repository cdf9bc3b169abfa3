/** The lint rule for long lines: no line is longer than `MOST`, unless one text alone makes it so. SQL is no such text. */

const MOST = 140
/** From how many letters a text may make its line long: breaking around it would gain little. */
const LONG_TEXT = 100
const SQL = /\b(SELECT|INSERT INTO|UPDATE|DELETE FROM|FROM|WHERE|JOIN|CREATE TABLE|CREATE INDEX|ORDER BY|GROUP BY)\b/

/** @type {import('eslint').Rule.RuleModule} */
export const longLines = {
  meta: { type: 'layout', schema: [], messages: { long: `This line has {{letters}} letters; ${MOST} are allowed. Break it.` } },
  create({ sourceCode, report }) {
    if (sourceCode.lines.every(line => line.length <= MOST)) return {}
    /** The longest text of each line, by the number of the line. */
    const texts = new Map()
    function note({ loc: { start, end } }) {
      for (let n = start.line; n <= end.line; n++) {
        const line = sourceCode.lines[n - 1]
        const text = line.slice(n === start.line ? start.column : 0, n === end.line ? end.column : line.length).trim()
        if (text.length > (texts.get(n)?.length ?? 0)) texts.set(n, text)
      }
    }
    const isText = ({ value, regex }) => typeof value === 'string' || regex !== undefined
    const inCode = { Literal: node => isText(node) && note(node), TemplateLiteral: note }
    function judge() {
      for (const [at, line] of sourceCode.lines.entries()) {
        const text = texts.get(at + 1) ?? ''
        if (line.length <= MOST || (text.length >= LONG_TEXT && !SQL.test(text))) continue
        report({ loc: { line: at + 1, column: MOST }, messageId: 'long', data: { letters: line.length } })
      }
    }
    // The template of a component is walked after its script.
    if (!sourceCode.ast.templateBody) return { ...inCode, 'Program:exit': judge }
    return sourceCode.parserServices.defineTemplateBodyVisitor({
      ...inCode, 'VText': note, 'VLiteral': note, 'VElement[name=template]:exit': ({ parent }) => parent.type !== 'VElement' && judge(),
    }, inCode)
  },
}
