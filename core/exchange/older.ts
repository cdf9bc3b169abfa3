/** What older versions wrote, as it is written now: for the migration of what is stored, and for files that were kept. */

type Branch = Record<string, unknown>

/** Which email a condition asks about, or something waits for, was once said as a course and a step. */
export function withSends<Definition>(definition: Definition): Definition {
  if (Array.isArray(definition)) return definition.map(one => withSends(one as unknown)) as Definition
  if (typeof definition !== 'object' || definition === null) return definition
  const branch = Object.fromEntries(Object.entries(definition).map(([key, value]) => [key, withSends(value as unknown)])) as Branch
  const which = branch.which as Branch | null | undefined
  if (branch.kind === 'email' && which && 'courseId' in which) {
    branch.which = { kind: 'course', ownerId: which.courseId, itemId: which.stepId ?? null }
  }
  if ((branch.kind === 'sent' || branch.kind === 'opened') && typeof branch.thingId === 'number') {
    const { thingId, stepId, ...rest } = branch
    return { ...rest, thingId: null, which: { kind: 'course', ownerId: thingId, itemId: stepId ?? null } } as Definition
  }
  return branch as Definition
}
