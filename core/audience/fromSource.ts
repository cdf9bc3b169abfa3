/** The people behind a number of what a source brought. */
import type { SourceKey } from '#core/page/touch'
import type { SourcesView } from '#core/views/sources'
import type { Condition } from './condition'

/** Of one source, or of every one that is listed; all of them, or those who still read. */
export function peopleFrom(
  { from, to, readingDays, lines }: Pick<SourcesView, 'from' | 'to' | 'readingDays' | 'lines'>, source: SourceKey | null, reading: boolean,
): Condition {
  const brought = (source: SourceKey): Condition => ({ kind: 'brought', by: 'first', source })
  return {
    kind: 'all', of: [
      source ? brought(source) : { kind: 'any', of: lines.map(line => brought(line.source)) },
      { kind: 'arrived', when: { kind: 'since', at: from } },
      { kind: 'arrived', when: { kind: 'before', at: to } },
      ...reading
        ? [
          { kind: 'status', is: ['active'] } as const,
          { kind: 'last-read', by: 'reader', within: { kind: 'last-days', days: readingDays } } as const,
        ]
        : [{ kind: 'none', of: [{ kind: 'status', is: ['pending'] }] } as const],
    ] as Condition[],
  }
}
