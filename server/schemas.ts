/** What may come in, described once. Words of the errors are for the person at the screen. */
import Joi from './joi'
import { isUnfinished, readAddress, type Allows } from '#core/message/webAddress'
import { ODD_WAYS, type OddAddressRule } from '#core/people/oddAddress'
import type { TagInput } from '#core/people/tag'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import type { WorkspaceSettings, SendingSettings } from '#core/views/settings'
import type { ListInput } from '#core/views/marks'
import type { ClockMove } from '#core/views/frame'
import { sayNumber } from '#core/stats/say'

export const text = (most: number) => Joi.string().allow('').max(most)
export const id = Joi.number().integer().positive()

/** An address that the owner typed, or is still typing. Nothing that runs, from a screen, a file or a program. */
export const address = (allows: Allows) => text(2000).custom((value: string, helpers) => {
  const read = readAddress(value, allows)
  return read.ok || isUnfinished(value) ? value : helpers.message({ custom: read.problem })
})

export const findQuery = Joi.object<{ text: string }>({ text: Joi.string().allow('').max(200).default('') })
export const acrossInput = Joi.object<{ replace: boolean | null }>({ replace: Joi.boolean().allow(null).required() })
export const setupInput = Joi.object<{ hidden: boolean }>({ hidden: Joi.boolean().required() })
export const nameInput = Joi.object<{ name: string }>({ name: text(120).required() })

/** Another version that the public shall see. */
const versionNumber = Joi.number().integer().positive().max(1e9).allow(null).required()
export const shownInput = Joi.object<{ from: number | null, to: number | null }>({ from: versionNumber, to: versionNumber })

/* Lists, tags */

const ids = Joi.array().items(id).unique().max(100).default([])

export const listInput = Joi.object<ListInput>({
  name: text(80).required(), publicName: text(80).required(), description: text(300).required(), offered: Joi.boolean().default(false),
  alsoOn: Joi.array().items(Joi.object({ listId: id.required(), afterCourseId: id.allow(null).required() })).max(50),
})
export const tagInput = Joi.object<TagInput>({
  name: text(80).required(), note: text(300).required(), group: text(40).default(''),
  colour: Joi.string().pattern(/^#[0-9a-f]{6}$/i).allow(null).default(null)
    .messages({ 'string.pattern.base': 'A colour looks like #3f7d4e.' }),
  expiry: Joi.alternatives(
    Joi.object({ kind: Joi.valid('never').required() }),
    Joi.object({
      kind: Joi.valid('after').required(),
      days: Joi.number().integer().min(1).max(3650).required().messages({ '*': 'From 1 to 3,650 days.' }),
    }),
    Joi.object({ kind: Joi.valid('on').required(), date: Joi.string().max(10).required() }),
  ).default({ kind: 'never' }),
  follows: Joi.object({ gives: ids, takes: ids, drops: ids }).default(NOTHING_FOLLOWS),
  publicName: Joi.string().max(60).empty('').allow(null).default(null),
})
/** Of a tag that is there, what follows must be said: nothing said would take it away. */
export const tagChange = tagInput.fork('follows', follows => follows.required())
export const mergeInput = Joi.object<{ into: number }>({ into: id.required().messages({ '*': 'Choose what to merge it into.' }) })
export const replaceInput = Joi.object<{ into: number }>({ into: id.required().messages({ '*': 'Choose what to replace it with.' }) })
export const peopleInput = Joi.object<{ people: number }>({
  people: Joi.number().integer().min(0).required().messages({ '*': 'Type the number.' }),
})

/* Public forms: nothing is refused for its length here, it is cut; what is wrong is said by the use case at the field. */

const cut = (most: number) => Joi.string().allow('').max(most).truncate().default('')

export const optInForm = Joi.object<{
  email: string, first_name: string, zone: string, website: string, touch: string, meant: string, by: string,
}>({ by: cut(200), email: cut(400), meant: cut(400), first_name: cut(400), zone: cut(64), website: cut(100), touch: cut(2000) })

/** Of the results of a page: how many days, today included. */
export const resultsQuery = Joi.object<{ days: number }>({
  days: Joi.number().integer().min(1).max(730).default(28).messages({ '*': 'From 1 to 730 days.' }),
})

export const addressForm = Joi.object<{ 'answer': 'yes' | null, 'List-Unsubscribe': string | null }>({
  'answer': Joi.valid('yes').default(null), 'List-Unsubscribe': Joi.string().max(40).default(null),
})

export const confirmForm = Joi.object<{ answer: 'yes' | 'again' }>({ answer: Joi.valid('yes', 'again').required() })

/** The second press on a link that wants one. */
export const askForm = Joi.object<{ do: 'yes' | 'undo' }>({ do: Joi.valid('yes', 'undo').required() })

/** Which of the answers, by the number of its link; none to take it back. */
export const answerForm = Joi.object<{ choose: string }>({ choose: Joi.string().pattern(/^(none|\d{1,3})$/).required() })

/** One of the buttons of the choices page, or a mail program's one press. */
export const choicesForm = Joi.object<{ 'do': string | null, 'address': string, 'why': string, 'List-Unsubscribe': string | null }>({
  'do': Joi.string().pattern(
    /^(course|everything|list-\d{1,12}|save|pause|go-on|take-back|come-back|address|why|(no-more|again|undo)-\d{1,12})$/,
  ).default(null),
  'address': cut(400), 'why': cut(40), 'List-Unsubscribe': Joi.string().max(40).default(null),
})

/* The clock, settings, signing in */

export const clockMove = Joi.object<ClockMove>({
  by: Joi.valid('next-send', 'hour', 'day', 'to').required(),
  at: Joi.number().integer().when('by', { is: 'to', then: Joi.required(), otherwise: Joi.forbidden() })
    .messages({ '*': 'Choose a date and a time.' }),
})

/** Said once more of an address within a private network. */
export const insideMeant = Joi.boolean().default(false)

export const settingsInput = Joi.object<WorkspaceSettings & { insideMeant: boolean }>({
  insideMeant,
  name: text(80).required(), zone: text(64).required(), senderName: text(80).required(), senderAddress: text(254).required(),
  postalAddress: text(400).required(), currency: text(3).required(), smtpUrl: Joi.string().max(500).empty('').allow(null).default(null),
})

export const whole = (least: number, most: number) => Joi.number().integer().min(least).max(most).required()
  .messages({ '*': `From ${sayNumber(least)} to ${sayNumber(most)}.` })

export const heldInput = Joi.object<{ held: boolean }>({ held: Joi.boolean().required() })

export const sendingInput = Joi.object<SendingSettings>({
  connections: whole(1, 20), messages: whole(1, 10_000), aMinute: whole(1, 10_000).allow(null),
  domains: whole(2, 50), minutes: whole(1, 1440), refusedOfDomain: whole(2, 50), lastOfDomain: whole(2, 100), softTimes: whole(1, 50),
  softDays: whole(1, 365),
  domainRates: Joi.object({
    everyDomain: whole(1, 10_000).allow(null),
    domains: Joi.array().items(Joi.object({ domain: text(254).required(), aMinute: whole(1, 10_000) })).max(100).required(),
  }).required(),
})

export const markInput = Joi.object<{ as: 'bounced' | 'complained', reason: string }>({
  as: Joi.valid('bounced', 'complained').required(), reason: text(400).required(),
})

export const smtpInput = Joi.object<{ smtpUrl: string | null, insideMeant: boolean }>({
  insideMeant, smtpUrl: Joi.string().max(500).empty('').allow(null).default(null),
})

export const oddAddressInput = Joi.object<OddAddressRule>({
  role: Joi.valid(...ODD_WAYS).required(), throwaway: Joi.valid(...ODD_WAYS).required(),
})

export const passwordInput = Joi.object<{ password: string }>({ password: Joi.string().allow('').max(500).required() })

const newPassword = Joi.string().min(10).max(500).required().messages({ '*': 'Choose a password of at least 10 characters.' })

export const newPasswordInput = Joi.object<{ password: string, zone: string, code: string }>({
  zone: text(64).default(''), code: text(40).default(''), password: newPassword,
})

export const otherPasswordInput = Joi.object<{ current: string, password: string }>({
  current: Joi.string().allow('').max(500).required(), password: newPassword,
})

/* Looking things up */

const page = { page: Joi.number().integer().min(0).max(100_000).default(0) }

export const mailSearch = Joi.object<{ search: string, page: number }>({ search: Joi.string().allow('').max(200).default(''), ...page })
