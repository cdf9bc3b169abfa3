/** Today: what goes out next, what wants a look, what just happened. */
import type { Database } from '#data/connection'
import { starts } from '#core/sequence/entries'
import { astrayWays } from './astray'
import { isWritten } from '#core/message/content'
import { givenBy } from '#core/page/content'
import { rateOf } from '#core/stats/rate'
import { DAY, HOUR, localOf, type Instant } from '#core/time/zone'
import type { Figures, FirstSteps, Notice, TodayView } from '#core/views/today'
import { readTogether } from '#data/connection'
import type { CourseRow } from '#data/courses'
import { countOutside } from '#data/doors'
import { allArchived } from '#data/archive'
import { cutSince } from '#data/cascades'
import { allCourses, findCourse } from '#data/courses'
import { countInside, countStopped } from '#data/enrolments'
import { standingsOfCourse } from '#data/standings'
import { latestEvents } from '#data/events'
import { sentBetween } from '#data/outbox'
import { allOffers, type OfferRow } from '#data/offers'
import { placesTaken, toldInVain } from '#data/purchases'
import { salesTrouble } from '#data/sales'
import { allPages } from '#data/pages'
import { countArrivals, countPeople, findPerson } from '#data/people'
import { allLists, allTags } from '#data/marks'
import { countUnseen, unseenNotices } from '#data/notices'
import { openTodos } from '#data/todos'
import { workspaceOf } from '#data/workspace'
import { planStep } from '#core/sequence/standing'
import { emailsOf, programOf } from '#core/sequence/draft'
import { placesOf } from '#core/sequence/program'
import { sayLength, sayMoment } from '#core/time/say'
import { standingOf } from '#core/offers/offer'
import { sayStanding } from '#core/offers/say'
import { THING_WORDS, type ThingKind } from '#core/rules/rule'
import { sayRule } from '#core/rules/say'
import { givenUpSince } from '#data/hooks'
import { linksInTrouble } from '#data/links'
import { allRules } from '#data/rules'
import type { House } from '../house'
import { doorOf, entrySql } from '../inner/comings'
import { dateFieldsRunning, houseFacts } from '../inner/enrolments'
import { ruleNamesOf } from '../inner/names'
import { missingOf } from '../inner/rules'
import { namersOfGone } from '../inner/uses'
import { forecast } from './forecast'
import { carrierNotices, engineNotices, mailNotices } from './sendingNotices'
import { count } from './count'
import { guarded } from './guarded'
import { waitingView } from './openings'
import { allNamed } from './frame'

/** `systemNow`: the machine's time, by which engines are seen; null where nobody asks for them. */
export const todayView = (house: House, systemNow: Instant | null = null): TodayView => readTogether(house.db, () => lookAtToday(house, systemNow))

function lookAtToday(house: House, systemNow: Instant | null): TodayView {
  const { db } = house
  const now = house.clock.now()
  return {
    now,
    figures: guarded(house, 'the figures of Today', () => figuresOf(house, now)),
    goingOut: guarded(house, 'what goes out next', () => allNamed(house, forecast(house, HOUR).slice(0, 7))),
    wantsALook: notices(house, now, systemNow),
    justHappened: guarded(house, 'the recent activity', () => latestEvents(db, 6).map((event) => {
      const person = event.personId === null ? undefined : findPerson(db, event.personId)
      return { ...event, person: person ? { id: person.id, name: person.firstName || person.address } : null }
    })),
    begin: firstSteps(db),
  }
}

function firstSteps(db: Database): FirstSteps | null {
  const { senderAddress, postalAddress } = workspaceOf(db)
  const steps: FirstSteps = {
    sender: senderAddress !== '' && postalAddress.trim() !== '', page: allPages(db).some(({ published }) => published !== null),
    course: allCourses(db).some(({ status }) => status === 'running'), tried: Object.values(countPeople(db)).some(count => count > 0),
  }
  return Object.values(steps).every(Boolean) ? null : steps
}

function figuresOf({ db }: House, now: Instant): Figures {
  const month = sentBetween(db, now - 28 * DAY, now)
  return {
    arrivedSinceYesterday: countArrivals(db, now - DAY, now), active: countPeople(db).active, arrived28: countArrivals(db, now - 28 * DAY, now),
    sent28: month.sent, opened28: rateOf(month.opened, month.sent), clicked28: rateOf(month.clicked, month.sent),
  }
}

const NOTICES: readonly ((house: House, now: Instant, systemNow: Instant | null) => Notice[])[] = [
  engineNotices, carrierNotices, mailNotices, deskNotices, ruleNotices, cutNotices, linkNotices, hookNotices, astrayNotices, goneNotices,
  courseNotices, pageNotices, offerNotices, settingsNotices,
]

function notices(house: House, now: Instant, systemNow: Instant | null): Notice[] {
  const parts = NOTICES.map(part => guarded(house, 'part of what needs attention', () => part(house, now, systemNow)))
  const missing: Notice[] = parts.includes(null) ? [{ tone: 'trouble', title: 'Part of this list is missing', text: 'Something in it could not be worked out; the log says what.', to: '/engine' }] : []
  return [...missing, ...parts.flatMap(part => part ?? [])]
}

/** What is put away asks for nothing. */
function inSight<Row extends { id: number }>(db: Database, kind: ThingKind, rows: Row[]): Row[] {
  const away = new Set(allArchived(db).filter(thing => thing.kind === kind).map(({ id }) => id))
  return rows.filter(({ id }) => !away.has(id))
}

function courseNotices(house: House, now: Instant): Notice[] {
  const { db } = house
  const list: Notice[] = []
  for (const course of inSight(db, 'course', allCourses(db))) {
    const to = `/courses/${course.id}`
    if (course.status === 'draft') {
      const { waiting } = countOutside(db, doorOf(course.id, course.draft), entrySql(db, course.draft, now))
      const emails = emailsOf(course.draft)
      const written = emails.filter(step => isWritten(step.content)).length
      list.push({ tone: 'plain', title: `${course.name} is not started`, text: `${written} of ${emails.length} emails written. ${course.draft.dates ? 'People come in by a date of theirs.' : `${count(waiting, 'person waits', 'people wait')} outside its door.`}`, to })
      continue
    }
    if (course.stoppedAt !== null) {
      const inside = countInside(db, course.id)
      list.push({
        tone: 'plain', title: `${course.name} is stopped`, to,
        text: `Since ${sayMoment(course.stoppedAt, workspaceOf(db).zone)} no emails go out. ${count(inside, 'person is', 'people are')} inside.`,
      })
    }
    const stopped = countStopped(db, course.id)
    if (stopped > 0) list.push({ tone: 'trouble', title: `${count(stopped, 'person is', 'people are')} stopped in ${course.name}`, text: 'It repeated a hundred steps without any time passing. Change it and publish: they continue from where they are.', to: `/courses/${course.id}?part=people` })
    const unwritten = emptyEmailNotice(house, course, now)
    if (unwritten) list.push(unwritten)
    if (JSON.stringify(course.draft) !== JSON.stringify(course.published)) {
      list.push({ tone: 'plain', title: `${course.name} has changes that are not published`, text: 'Readers get the published version until you publish.', to })
    }
  }
  return list
}

/** A running course may have emails still to be written: says who is nearest to the first of them, and when it is wanted. */
function emptyEmailNotice(house: House, course: CourseRow, now: Instant): Notice | null {
  const { db } = house
  const empty = emailsOf(course.published!).find(step => !isWritten(step.content))
  if (!empty) return null
  const { zone } = workspaceOf(db)
  const to = `/courses/${course.id}`
  const open = standingsOfCourse(db, course.id, dateFieldsRunning(db))
  const standing = open.filter(row => row.stepId === empty.id)
  if (standing.length === 0) {
    const moves = open.flatMap(row => row.dueAt ?? [])
    return { tone: 'plain', title: `${course.name} has an email still to write`, text: moves.length === 0 ? 'Nobody is near it yet.' : `The first reader comes to it in ${sayLength(Math.max(0, Math.min(...moves) - now))} at the soonest.`, to }
  }
  const program = programOf(course.published!, () => 0)
  const { step } = placesOf(program).get(empty.id)!
  const waiting = standing.reduce((sum, row) => sum + row.people, 0)
  const wantedAt = Math.min(...standing.map(row => planStep(program, step, row, { ...houseFacts(db), personZone: row.personZone, dateOf: row.dateOf }).plannedAt))
  return {
    tone: wantedAt <= now ? 'trouble' : 'plain',
    title: `${count(waiting, 'person waits', 'people wait')} for an email that is not written`,
    text: `${course.name}: write “${empty.content.workingTitle || 'the next email'}” and publish it. ${wantedAt <= now ? `It should have gone ${sayMoment(wantedAt, zone)}` : `The first of them is to get it ${sayMoment(wantedAt, zone)}, in ${sayLength(wantedAt - now)}`}.`,
    to,
  }
}

/** Coming in by these ways brings nobody a single email. */
function astrayNotices({ db }: House): Notice[] {
  return astrayWays(db).map(({ by, course, list }) => ({
    tone: 'trouble', title: `People who come by ${by.name} get no email of ${course.name}`,
    text: `They do not join its list, ${list.name}. One click mends it.`, to: `/courses/${course.id}?part=doors`,
  }))
}

/** Something that is named is not there any more: rules stand still and say so themselves. */
function goneNotices({ db }: House): Notice[] {
  return namersOfGone(db).filter(({ namer }) => namer.kind !== 'rule').map(({ namer: { kind, id, name, inForce }, gone, needs }) => {
    const what = gone.map(one => THING_WORDS[one]).join(' and ')
    const is = gone.length === 1 ? 'is' : 'are'
    return needs
      ? {
        tone: inForce ? 'trouble' : 'plain', title: `${name} asks for ${what} that ${is} gone`,
        text: `It goes by it as if nobody had it. Choose another there${inForce && kind !== 'segment' ? ', and publish it' : ''}.`,
        to: `/${kind}s/${id}`,
      }
      : {
        tone: 'plain', title: `${name} names ${what} that ${is} gone`,
        text: `It goes on without.${inForce && kind !== 'link' ? ' Publishing it once more takes it out.' : ''}`, to: `/${kind}s/${id}`,
      }
  })
}

function pageNotices(house: House): Notice[] {
  const { db } = house
  const running = allCourses(db).filter(course => course.status === 'running')
  const names = new Map(allTags(db).map(tag => [tag.id, tag.name]))
  const list: Notice[] = []
  for (const page of inSight(db, 'page', allPages(db))) {
    if (!page.published) {
      list.push({ tone: 'plain', title: `${page.name} is not published`, text: 'Only you can see it.', to: `/pages/${page.id}` })
    }
    else if (page.published.promised === null && page.published.resultPages.length === 0 && !running.some(course => starts(
      course.id, course.published!, { ...givenBy(page.published!), courseId: page.published!.courseId }
    ))) {
      const given = givenBy(page.published).tagIds.map(id => names.get(id)).join(', ')
      list.push({ tone: 'plain', title: `Nothing follows from ${page.name}`, text: given ? `It gives ${given}, and no running course starts with that.` : 'It gives no tag, so no course starts.', to: `/pages/${page.id}` })
    }
  }
  return list
}

function offerNotices(house: House, now: Instant): Notice[] {
  const { db } = house
  const list: Notice[] = []
  const { disputed, refused } = salesTrouble(db)
  for (const { offerId, name, n } of disputed) list.push({ tone: 'trouble', title: `${count(n, 'buyer asks', 'buyers ask')} the bank for their money back`, text: `${name}: give it back, or answer the bank.`, to: `/offers/${offerId}/sales?days=730&state=disputed` })
  for (const { offerId, name, n } of refused) list.push({ tone: 'plain', title: `${count(n, 'payment was', 'payments were')} refused`, text: `${name}: what they have is theirs until you end it.`, to: `/offers/${offerId}/sales?days=730&state=refused` })
  const inVain = toldInVain(db, 100).length
  if (inVain > 0) list.push({ tone: 'trouble', title: `${count(inVain, 'thing was', 'things were')} told of payments and not counted`, text: 'Each says why.', to: '/offers' })
  const { zone } = workspaceOf(db)
  for (const offer of inSight(db, 'offer', allOffers(db))) {
    const to = `/offers/${offer.id}`
    list.push(...waitingNotice(house, offer, now))
    if (!offer.published) {
      list.push({ tone: 'plain', title: `${offer.name} is not published`, text: 'Nobody can buy it yet.', to })
      continue
    }
    if (house.checkout === null) list.push({ tone: 'trouble', title: `${offer.name} cannot be paid for`, text: 'Set the payment service in Settings.', to: '/settings' })
    const { places, closesAt } = offer.published
    const { sold, held } = placesTaken(db, offer.id, now)
    const taken = sold + held
    if (places !== null && taken > places) list.push({ tone: 'trouble', title: `${offer.name} is sold beyond its places`, text: `${count(taken, 'place is', 'places are')} taken of ${places.toLocaleString('en-GB')}. Make room, or give money back.`, to })
    if (closesAt !== null && closesAt > now && closesAt <= now + 3 * DAY) list.push({ tone: 'plain', title: `${offer.name} closes soon`, text: `${sayMoment(closesAt, zone)}, in ${sayLength(closesAt - now)}.`, to })
  }
  return list
}

/** Who waits, and when they hear of it; or what keeps them from it. */
function waitingNotice({ db }: House, { id, name, published, draft }: OfferRow, now: Instant): Notice[] {
  const waiting = waitingView(db, id, now)
  if (!waiting || waiting.people === 0) return []
  const { zone } = workspaceOf(db)
  const [first] = waiting.ahead.bits
  const people = count(waiting.people, 'person waits', 'people wait')
  const notice = (tone: Notice['tone'], text: string): Notice[] => [{ tone, title: `${people} for ${name}`, text, to: `/offers/${id}?part=waiting` }]
  if (!published) return notice('trouble', 'It is not published, so nobody gets the email or can buy it.')
  if (!waiting.canTell) return notice('trouble', draft.waiting ? 'The email that tells them is not published. Publish it once more.' : 'Its waiting list is off, so nobody gets the email.')
  if (!first) return notice('plain', `${sayStanding(standingOf(published, now, placesTaken(db, id, now)), zone)}. No opening is planned.`)
  const unheard = waiting.ahead.unheard === 0 ? '' : ` As it is now, ${count(waiting.ahead.unheard, 'person does', 'people do')} not get a turn.`
  const many = waiting.ahead.bits.length === 1 ? '' : `, the first ${first.people} of them; then one group after the other`
  return notice('plain', `Their email goes out ${sayMoment(first.at, zone)}${many}.${unheard}`)
}

function deskNotices({ db }: House, now: Instant): Notice[] {
  const today = localOf(now, workspaceOf(db).zone).date
  const due = openTodos(db).filter(({ dueOn }) => dueOn <= today)
  const unseen = countUnseen(db)
  return [
    ...due.length > 0 ? [{ tone: due.some(({ dueOn }) => dueOn < today) ? 'trouble' as const : 'plain' as const, title: `${count(due.length, 'to-do is', 'to-dos are')} due`, text: [...new Set(due.map(({ text }) => text))].slice(0, 3).join('; '), to: '/to-dos' }] : [],
    ...unseen > 0 ? [{ tone: 'plain' as const, title: `${count(unseen, 'notice', 'notices')} from house rules`, text: [...new Set(unseenNotices(db, 20).map(({ text }) => text))].slice(0, 2).join('; '), to: '/to-dos' }] : [],
  ]
}

function hookNotices({ db }: House, now: Instant): Notice[] {
  return givenUpSince(db, now - 7 * DAY).map(({ name, n }) => ({ tone: 'trouble' as const, title: `${name} could not be called`, text: `${count(n, 'call was', 'calls were')} given up this week, after a day of trying. Each says why, and can be sent again.`, to: '/webhooks' }))
}

function linkNotices({ db }: House): Notice[] {
  const { zone } = workspaceOf(db)
  return linksInTrouble(db).map(({ id, name, trouble, troubleSinceAt }) => ({ tone: 'trouble' as const, title: `The link “${name}” leads nowhere`, text: `Since ${sayMoment(troubleSinceAt!, zone)}: ${trouble}. Another destination counts in emails already sent, too.`, to: `/links/${id}` }))
}

function ruleNotices({ db }: House): Notice[] {
  return allRules(db).filter(rule => rule.on && missingOf(db, rule).length > 0).map(rule => ({
    tone: 'trouble' as const, title: 'A house rule stands still', text: `Something it names is not there any more: ${sayRule(rule, ruleNamesOf(db))}`, to: `/house-rules/${rule.id}`,
  }))
}

/** What would have gone round without end was cut off: a course or a rule feeds itself. */
function cutNotices({ db }: House, now: Instant): Notice[] {
  return cutSince(db, now - 7 * DAY).map(({ courseId, ruleId, people }) => {
    const course = courseId === null ? undefined : findCourse(db, courseId)
    const about = course ? `${course.name} starts itself again at once, directly or through others.` : 'House rules or courses set each other off.'
    const to = course ? `/courses/${course.id}?part=doors` : ruleId === null ? '/house-rules' : `/house-rules/${ruleId}`
    return { tone: 'trouble', title: `Something would repeat without end for ${count(people, 'person', 'people')}`, text: `${about} It was cut off; what had been done until then stays.`, to }
  })
}

function settingsNotices(house: House): Notice[] {
  const { senderAddress, postalAddress } = workspaceOf(house.db)
  const list: Notice[] = []
  if (senderAddress === '' || postalAddress === '') list.push({ tone: 'plain', title: 'Say who the emails are from', text: 'A sender and a postal address stand in every email.', to: '/settings' })
  if (allLists(house.db).length === 0) list.push({ tone: 'plain', title: 'Make a list', text: 'Every email belongs to one; subscribers can leave it.', to: '/tags-and-lists' })
  return list
}
