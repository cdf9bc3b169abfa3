/** The owner's week as an email: the same figures as Today, and what needs them. Everything in it leads to its screen. */
import { escapeHtml } from '../message/escape'
import { sayMoney, type Money } from '../money/money'
import type { Rate } from '../stats/rate'
import { sayNumber, sayPeople, sayRate, saySome } from '#core/stats/say'
import { day, night, type as faces } from '../theme/tokens'
import { sayDay, sayMoment } from '../time/say'
import type { Instant, ZoneName } from '../time/zone'

export interface WeekOfSending { sent: number, opened: Rate, clicked: Rate }

export interface WeeklySummary {
  workspace: string
  zone: ZoneName
  /** The week begins here … */
  from: Instant
  /** … and ends here, which is still part of it. */
  until: Instant
  arrived: number
  arrivedBefore: number
  left: number
  active: number
  sending: WeekOfSending
  sendingBefore: WeekOfSending
  /** Those in which anything happened, most joined first. */
  courses: { id: number, name: string, joined: number, finished: number }[]
  /** Paid in the week, less what was refunded since; one sum for each currency. */
  sales: { count: number, sums: Money[] }
  attention: { title: string, text: string, to: string, action: string }[]
  goingOut: { at: Instant, title: string, people: number }[]
}

export interface WrittenSummary { subject: string, text: string, html: string }

const LINE = 'border-top:1px solid'

/** `origin`: where the application is reached, without a slash at its end. */
export function summaryEmail(summary: WeeklySummary, origin: string): WrittenSummary {
  const { zone, from, until, sending, sendingBefore } = summary
  const week = `${sayDay(from, zone)} to ${sayDay(until, zone)}`
  const subject = `Your week: ${saySome(summary.arrived, 'person', 'people')} arrived, ${saySome(sending.sent, 'email', 'emails')} sent`
  const figures: [string, string][] = [
    [sayNumber(summary.arrived), `arrived (${sayNumber(summary.arrivedBefore)} the week before)`],
    [sayNumber(summary.left), 'left'],
    [sayNumber(summary.active), 'active subscribers'],
    [sayNumber(sending.sent), `emails sent (${sayNumber(sendingBefore.sent)} the week before)`],
    ...sending.sent === 0 ? [] : [
      [sayRate(sending.opened), `reader opens${before(sendingBefore.opened)}`],
      [sayRate(sending.clicked), `clicks${before(sendingBefore.clicked)}`],
    ] satisfies [string, string][],
    ...summary.sales.count === 0 ? [] : [
      [summary.sales.sums.map(sayMoney).join(' and '), `from ${saySome(summary.sales.count, 'payment', 'payments')}, after refunds`],
    ] satisfies [string, string][],
  ]
  const parts: Part[] = [
    {
      title: 'Needs attention', none: 'Nothing needs attention.', to: '/', all: 'Open Today',
      lines: summary.attention.map(({ title, text, to }) => ({ title, text, to })),
    },
    {
      title: 'Courses', none: null, to: '/courses', all: 'Open the courses',
      lines: summary.courses.map(({ id, name, joined, finished }) =>
        ({ title: name, text: `${sayPeople(joined)} joined, ${sayNumber(finished)} finished.`, to: `/courses/${id}` })),
    },
    {
      title: 'Going out next', none: 'Nothing is planned for the next seven days.', to: '/calendar', all: 'Open the coming days',
      lines: summary.goingOut.map(({ at, title, people }) =>
        ({ title, text: `${sayMoment(at, zone)}, about ${sayPeople(people)}.`, to: '/calendar' })),
    },
  ]
  const foot = 'You get this email because the weekly summary is on.'
  return {
    subject,
    text: [
      `Your week at ${summary.workspace}, ${week}`,
      figures.map(([figure, words]) => `${figure} ${words}`).join('\n'),
      ...parts.map(part => inText(part, origin)).filter(Boolean),
      `${foot} Turn it off: ${origin}/settings?at=summary`,
    ].join('\n\n'),
    html: page(subject, [
      `<p class="second" style="margin:0">${escapeHtml(summary.workspace)}, ${escapeHtml(week)}</p>`,
      `<h1 style="margin:2px 0 14px;font:700 24px/1.2 ${faces.plain}">Your week</h1>`,
      `<table role="presentation" cellpadding="0" cellspacing="0" style="width:100%">${figures.map(([figure, words]) =>
        `<tr><td style="padding:3px 14px 3px 0;font:700 18px/1.3 ${faces.plain};white-space:nowrap;text-align:right">${escapeHtml(figure)}</td>`
        + `<td class="second" style="padding:3px 0;width:100%">${escapeHtml(words)}</td></tr>`).join('')}</table>`,
      ...parts.map(part => inHtml(part, origin)).filter(Boolean),
      `<p class="second small" style="margin:26px 0 0">${foot} <a href="${escapeHtml(`${origin}/settings?at=summary`)}">Turn it off</a></p>`,
    ].join('\n')),
  }
}

const before = (rate: Rate): string => rate.value === null ? '' : ` (${sayRate(rate)} the week before)`

/** `none`: said where there are no lines; null leaves the part out then. */
interface Part { title: string, none: string | null, to: string, all: string, lines: { title: string, text: string, to: string }[] }

function inText({ title, none, lines }: Part, origin: string): string {
  if (lines.length === 0) return none === null ? '' : `${title}\n${none}`
  return `${title}\n${lines.map(line => `- ${line.title}\n  ${line.text}\n  ${origin}${line.to}`).join('\n')}`
}

function inHtml({ title, none, to, all, lines }: Part, origin: string): string {
  if (lines.length === 0 && none === null) return ''
  const rows = lines.map(line => `<div class="line" style="padding:8px 0;${LINE}">`
    + `<a href="${escapeHtml(origin + line.to)}" style="font-weight:600">${escapeHtml(line.title)}</a><br>`
    + `<span class="second">${escapeHtml(line.text)}</span></div>`)
  return `<h2 style="margin:26px 0 6px;font:700 17px/1.3 ${faces.plain}">${escapeHtml(title)}</h2>\n`
    + (lines.length > 0 ? rows.join('\n') : `<p class="second" style="margin:0">${escapeHtml(none!)}</p>`)
    + `\n<p class="small" style="margin:8px 0 0"><a href="${escapeHtml(origin + to)}">${escapeHtml(all)}</a></p>`
}

/** By day and by night, for mail programs that tell; others show it by day. */
const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta name="color-scheme" content="light dark"><meta name="supported-color-schemes" content="light dark"><title>${escapeHtml(title)}</title>
<style>
body{margin:0;padding:24px 12px;background:${day.ceiling};color:${day.ink};font:15px/1.5 ${faces.plain}}
.sheet{max-width:560px;margin:0 auto;padding:24px 26px;background:${day.paper};border-radius:8px;border-bottom:2px solid ${day.railWood}}
.second{color:${day.inkSecond}} .small{font-size:13px} a{color:${day.door}} .line{border-color:${day.lineLight}!important}
@media (prefers-color-scheme:dark){
body{background:${night.ceiling};color:${night.ink}} .sheet{background:${night.paper};border-color:${night.railWood}}
.second{color:${night.inkSecond}} a{color:${night.door}} .line{border-color:${night.lineLight}!important}
}
</style></head>
<body><div class="sheet">
${body}
</div></body></html>`
