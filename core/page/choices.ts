/** The page on which readers choose what they get. */
import { LEAVING_ANSWERS, LEAVING_QUESTION, LEAVING_WORDS } from '#core/people/leaving'
import { sayDay, sayZone } from '#core/time/say'
import type { Instant, ZoneName } from '#core/time/zone'
import { html, type Html } from './html'
import { shell, type Face } from './shell'

/** What somebody gets from us, and can choose. */
export interface Choices {
  address: string
  gone: boolean
  course: { name: string, inside: boolean } | null
  /** Those they are on or have left, and those that everybody is offered. */
  lists: { id: number, name: string, description: string, joined: boolean }[]
  interests: { id: number, name: string, has: boolean }[]
  /** What this email sells, and what they want to hear no more of. */
  offers: { id: number, name: string, noMore: boolean }[]
  pausedUntilAt: Instant | null
  canTakeBack: boolean
  /** Their own address of the page they came by, to be passed on; null if it no longer exists. */
  passOnUrl: string | null
  /** Links they followed lately that changed something about them, and may be taken back. */
  followed: { eventId: number, label: string, at: Instant }[]
  /** True if they may still say why they left. */
  asksWhy: boolean
}

export interface ChoicesView extends Face, Omit<Choices, 'address'> {
  action: string
  /** With its middle hidden, so that a forwarded link does not give the address away. */
  shownAddress: string
  zone: ZoneName
  /** What was typed as another address, and what is wrong with it. */
  address: { typed: string, problem: string | undefined }
  /** What was just done, in words. */
  done?: string
}

export function renderChoices(view: ChoicesView): string {
  const { action, done, canTakeBack } = view
  return shell({ title: 'What you get from us', robots: 'noindex', ...view }, html`<div class="rest">
<h1>What you get from us</h1>
<p class="under">For ${view.shownAddress}</p>
${done && html`<div class="done" role="status"><p>${done}</p>${canTakeBack && form(action, html`<button class="quiet" name="do" value="take-back">Undo</button>`)}</div>`}
${view.asksWhy && why(action)}
${view.gone ? gone(view) : chosen(view)}
</div>`)
}

const form = (action: string, inside: Html) => html`<form method="post" action="${action}">${inside}</form>`

function choice(action: string, what: string, say: Html, label: string): Html {
  return html`<form method="post" action="${action}" class="choice"><p>${say}</p><button class="quiet" name="do" value="${what}">${label}</button></form>`
}

function gone({ action, senderName }: ChoicesView): Html {
  return html`<section><p>You get no emails from ${senderName}.</p>${form(action, html`<button name="do" value="come-back">Come back</button>`)}</section>`
}

function chosen(view: ChoicesView): Html {
  const { action, course, offers, pausedUntilAt, address } = view
  return html`
${course?.inside && html`<section>${choice(action, 'course', html`You are inside the email course <strong>${course.name}</strong>.`, 'Leave only this course')}</section>`}
${offers.length > 0 && html`<section>${offers.map(({ id, name, noMore }) => noMore
  ? choice(action, `again-${id}`, html`You get nothing more about <strong>${name}</strong>.`, 'Hear about it again')
  : choice(action, `no-more-${id}`, html`Not interested in <strong>${name}</strong>? Everything else goes on.`, 'No more about this'))}</section>`}
${(view.lists.length > 0 || view.interests.length > 0) && html`<section>${form(action, html`
${view.lists.length > 0 && html`<fieldset><legend>Lists</legend>${view.lists.map(list => tick('list', list.id, list.joined, html`<strong>${list.name}</strong>${list.description && html`<br>${list.description}`}`))}</fieldset>`}
${view.interests.length > 0 && html`<fieldset><legend>Your interests</legend>${view.interests.map(tag => tick('interest', tag.id, tag.has, html`${tag.name}`))}</fieldset>`}
<button name="do" value="save">Save these choices</button>`)}</section>`}
${view.followed.length > 0 && html`<section><h2>What your clicks told us</h2>${view.followed.map(({ eventId, label, at }) => choice(action, `undo-${eventId}`, html`You clicked <strong>${label}</strong> on ${sayDay(at, view.zone, true)}.`, 'Undo'))}</section>`}
<section>${pausedUntilAt === null
  ? choice(action, 'pause', html`Pause for 30 days. Courses wait for you.`, 'Pause for 30 days')
  : choice(action, 'go-on', html`Paused until ${sayDay(pausedUntilAt, view.zone, true)} (${sayZone(view.zone)}).`, 'End the pause now')}
<form method="post" action="${action}" class="choice" novalidate><div class="field"><label for="address">Another address for your mail</label>
<input id="address" name="address" type="email" autocomplete="email" value="${address.typed}" ${address.problem && html`aria-invalid="true" aria-describedby="address-problem" autofocus`}>${address.problem && html`<p class="problem" id="address-problem">${address.problem}</p>`}</div>
<button class="quiet" name="do" value="address">Send a confirmation there</button></form>
${view.passOnUrl && html`<div class="choice"><p>Know someone who would like this? Pass on your own link. They decide for themselves.<br><a class="own" href="${view.passOnUrl}">${view.passOnUrl}</a></p></div>`}
${choice(action, 'everything', html`No more emails of any kind.`, 'Leave everything')}</section>`
}

const tick = (name: string, id: number, ticked: boolean, label: Html) =>
  html`<div class="tick"><label><input type="checkbox" name="${name}" value="${id}" ${ticked && 'checked'}> <span>${label}</span></label></div>`

function why(action: string): Html {
  return html`<section>${form(action, html`<fieldset><legend>${LEAVING_QUESTION}</legend>${LEAVING_ANSWERS.map(answer => html`<label class="option"><input type="radio" name="why" value="${answer}" required> <span>${LEAVING_WORDS[answer]}</span></label>`)}</fieldset>
<button class="quiet" name="do" value="why">Send</button>`)}</section>`
}
