/** The steps of a course as they are being written: which one is open, and adding, moving, copying and taking out. */
import { computed, ref, type ComputedRef } from 'vue'
import type { CourseDraft, DraftStep } from '#core/sequence/draft'
import { allSteps, waysOf } from '#core/sequence/program'
import { aDayLater } from '#core/sequence/nextDay'
import { emailsOfOutline, type Outline } from '#core/sequence/outline'
import type { RuleNames } from '#core/rules/say'
import type { StepPlace } from '~/components/course/StepFoot.vue'
import { copyOf, freshId, newStep, placeIn, sayStep, sayWay } from '~/courses/steps'

export function useCourseSteps(draft: () => CourseDraft | undefined, names: ComputedRef<RuleNames | null>) {
  const openId = ref<string | null>(null)
  const removed = ref<{ step: DraftStep, row: DraftStep[], at: number } | null>(null)
  const all = computed(() => allSteps<DraftStep>(draft()?.steps ?? []))
  const open = computed(() => all.value.find(step => step.id === openId.value))
  const place = computed(() => openId.value === null ? null : placeIn(draft()?.steps ?? [], openId.value))

  /** Emails are counted through, those in ways too. */
  const numberOf = (stepId: string) => all.value.filter(({ kind }) => kind === 'email').findIndex(({ id }) => id === stepId) + 1
  const titleOf = (stepId: string): string => {
    const step = all.value.find(one => one.id === stepId)
    return step && names.value
      ? sayStep(step, names.value, other => all.value.find(one => one.id === other)?.kind === 'email' ? titleOf(other) : 'another step')
      : 'a deleted step'
  }
  /** What stands behind the open one. */
  /** Emails before the open step, in reading order. */
  const earlier = computed(() => all.value.slice(0, Math.max(0, all.value.findIndex(step => step.id === openId.value)))
    .filter(({ kind }) => kind === 'email').map(step => ({ id: step.id, name: titleOf(step.id) })))
  const later = computed(() =>
    all.value.slice(all.value.findIndex(step => step.id === openId.value) + 1).map(step => ({ id: step.id, name: titleOf(step.id) })))

  /** The steps of a way, or of the course itself. */
  const rowOf = (stepId?: string, wayId?: string): DraftStep[] =>
    stepId ? waysOf(all.value.find(one => one.id === stepId)!).find(way => way.id === wayId)!.steps : draft()!.steps

  /** Every row the open step could lie in: not one of its own ways. */
  const stepPlace = computed<StepPlace | null>(() => {
    if (!place.value || !open.value) return null
    const own = new Set(allSteps<DraftStep>([open.value]).map(step => step.id))
    const ways = names.value ? all.value.filter(step => !own.has(step.id)).flatMap(step => waysOf(step).map(way => ({
      value: `${step.id}/${way.id}`, name: `“${sayWay(step, way.id, names.value!)}” of: ${titleOf(step.id)}`, steps: way.steps,
    }))) : []
    const { row, at } = place.value
    return {
      at, count: row.length, rowKey: ways.find(({ steps }) => steps === row)?.value ?? '',
      rows: [{ value: '', name: 'the course’s own row' }, ...ways.map(({ value, name }) => ({ value, name }))],
    }
  })

  function toggle(stepId: string) {
    openId.value = openId.value === stepId ? null : stepId
  }
  /** At the end of a way, or of the course. */
  function add(kind: DraftStep['kind'], stepId?: string, wayId?: string) {
    const step = newStep(kind, all.value.length === 0)
    rowOf(stepId, wayId).push(step)
    openId.value = step.id
  }
  /** At the end of the course. */
  function addSeveral(outline: Outline) {
    const { steps } = draft()!
    steps.push(...emailsOfOutline(outline, steps.length === 0, freshId))
  }
  /** Opens the email before or after the open one; null where there is none. */
  const neighbour = (by: -1 | 1) => computed(() => {
    const emails = all.value.filter(({ kind }) => kind === 'email')
    const at = emails.findIndex(({ id }) => id === openId.value)
    return at < 0 ? null : emails[at + by]?.id ?? null
  })
  const [before, after] = [neighbour(-1), neighbour(1)]
  /** Puts it in the place of what has its id. */
  function change(step: DraftStep) {
    const found = placeIn(draft()?.steps ?? [], step.id)
    if (found) found.row[found.at] = step
  }
  function moveOpen(by: -1 | 1) {
    const { row, at } = place.value!
    const [step] = row.splice(at, 1)
    row.splice(at + by, 0, step!)
  }
  function arrange(stepId: string, wayId: string, steps: DraftStep[]) {
    rowOf(stepId, wayId).splice(0, Infinity, ...steps)
  }
  /** At the end of another row. */
  function moveInto(rowKey: string) {
    const { row, at } = place.value!
    const [step] = row.splice(at, 1)
    rowOf(...rowKey.split('/') as [string?, string?]).push(step!)
  }
  function copy() {
    const { row, at } = place.value!
    const twin = copyOf(row[at]!)
    if (twin.kind === 'email') twin.when = aDayLater(twin.when)
    row.splice(at + 1, 0, twin)
    openId.value = twin.id
  }
  function remove() {
    const { row, at } = place.value!
    removed.value = { step: row[at]!, row, at }
    openId.value = null
    row.splice(at, 1)
  }
  function putBack() {
    const { step, row, at } = removed.value!
    row.splice(Math.min(at, row.length), 0, step)
    removed.value = null
  }
  return {
    all, openId, open, removed, numberOf, titleOf, later, earlier, stepPlace,
    before, after, toggle, add, addSeveral, change, moveOpen, arrange, moveInto, copy, remove, putBack,
  }
}
