/** Somebody who might join a course, and the dates they would get each step at. */
import { computed, ref, type Ref } from 'vue'
import { datesFor } from '#core/sequence/dates'
import { programOf, type CourseDraft } from '#core/sequence/draft'
import type { CourseView } from '#core/views/course'
import { addDays, instantOf, isLocalTime, isZone, localOf } from '#core/time/zone'
import type { SampleJoiner } from '~/components/course/JoinerBar.vue'
import { useFrame } from '~/stores/frame'

export function useSampleJoiner(draft: () => CourseDraft | undefined, course: Ref<CourseView | null>) {
  const frame = useFrame()
  const zone = computed(() => frame.zone)
  const chosen = ref<SampleJoiner | null>(null)
  /** Which way they take, where one was chosen, by the id of the step. */
  const ways = ref<ReadonlyMap<string, string>>(new Map())

  /** Somebody who joins tomorrow at noon, until another is chosen. */
  const joiner = computed<SampleJoiner>({
    get: () => chosen.value ?? { date: addDays(localOf(frame.now, zone.value).date, 1), time: '12:00', zone: zone.value, dates: {} },
    set: value => chosen.value = value,
  })
  const joinedAt = computed(() => {
    const { date, time, zone: place } = joiner.value
    try {
      return isLocalTime(time) && isZone(place) ? instantOf(date, time, place) : null
    }
    catch {
      return null // a date still being typed
    }
  })
  const dates = computed(() => {
    const written = draft()
    if (!written || joinedAt.value === null) return new Map()
    const { date, dates: known, zone: personZone } = joiner.value
    const facts = { workspaceZone: zone.value, personZone, hours: course.value!.hours, dateOf: (fieldId: number) => known[fieldId] ?? date }
    return new Map(datesFor(programOf(written, () => 0), joinedAt.value, facts, ways.value).map(row => [row.stepId, row]))
  })
  function take(stepId: string, wayId: string) {
    ways.value = new Map([...ways.value, [stepId, wayId]])
  }
  return { zone, joiner, joinedAt, dates, ways, take }
}
