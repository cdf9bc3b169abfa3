/** What is not connected, or would go round without end. */
import { THING_WORDS } from '#core/things'
import { DAY, type Instant } from '#core/time/zone'
import type { Notice } from '#core/views/today'
import { cutSince } from '#data/cascades'
import { findCourse } from '#data/courses'
import type { WorkspaceContext } from '../context'
import { namersOfGone } from '../inner/uses'
import { astrayWays } from '../views/astray'
import { saySome } from '#core/stats/say'

/** Coming in by these ways brings nobody a single email. */
export function astrayNotices({ db }: WorkspaceContext): Notice[] {
  return astrayWays(db).map(({ by, course, list }) => ({
    tone: 'trouble', title: `People from ${by.name} get no emails from ${course.name}`,
    text: `They do not join its list, ${list.name}. One click fixes it.`, to: `/courses/${course.id}?part=entries`,
    action: 'Connect it',
  }))
}

/** Something that is named no longer exists: rules stand still and say so themselves. */
export function goneNotices({ db }: WorkspaceContext): Notice[] {
  return namersOfGone(db).filter(({ namer }) => namer.kind !== 'rule').map(({ namer: { kind, id, name, inForce }, gone, needs }) => {
    const what = gone.map(one => THING_WORDS[one]).join(' and ')
    const is = gone.length === 1 ? 'is' : 'are'
    return needs
      ? {
        tone: inForce ? 'trouble' : 'plain', title: `${name} asks for ${what} that ${is} gone`,
        text: `It works as if nobody had it. Choose another there${inForce && kind !== 'segment' ? ', and publish it' : ''}.`,
        to: `/${kind}s/${id}`, action: 'Choose another',
      }
      : {
        tone: 'plain', title: `${name} names ${what} that ${is} gone`,
        text: `It works without it.${inForce && kind !== 'link' ? ' Publishing again removes it.' : ''}`, to: `/${kind}s/${id}`,
        action: 'Look at it',
      }
  })
}

/** What would have gone round without end was cut off: a course or a rule feeds itself. */
export function cutNotices({ db }: WorkspaceContext, now: Instant): Notice[] {
  return cutSince(db, now - 7 * DAY).map(({ courseId, ruleId, people }) => {
    const course = courseId === null ? undefined : findCourse(db, courseId)
    const about = course
      ? `${course.name} starts itself again at once, directly or through others.`
      : 'House rules or courses set each other off.'
    const to = course ? `/courses/${course.id}?part=entries` : ruleId === null ? '/house-rules' : `/house-rules/${ruleId}`
    return {
      tone: 'trouble', title: `An endless loop was stopped for ${saySome(people, 'person', 'people')}`,
      text: `${about} What was done before that stays.`, to,
      action: 'Find the circle',
    }
  })
}
