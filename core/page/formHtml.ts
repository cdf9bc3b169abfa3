/** The form of a page as HTML: labels, problems beside what they are about, and nothing that needs a script. */
import { allCountries } from '#core/people/country'
import type { Field } from '#core/people/field'
import { noMark, type Mark } from './editing'
import type { Ask, PageForm, Typed } from './form'
import { html, type Html } from './html'
import { writeTouch, type Touch } from './touch'

/** Name of the field that people do not see and robots fill in. */
export const TRAP_FIELD = 'website'

/** What somebody typed, to be shown again beside what is wrong with it. */
export interface Filled { email: string, firstName: string, answers: Typed }

export interface FormView {
  form: PageForm
  /** The fields it asks for, by number. */
  fields: ReadonlyMap<number, Pick<Field, 'kind' | 'choices'>>
  /** Where it is sent. */
  action: string
  /** What brought the visitor; the form carries it along. */
  touch: Touch
  /** The signed address of the reader who passed the page on. */
  by?: string
  filled?: Filled
  /**
   * By what asked: `email`, `email-meant` for one that is taken when it is sent once more, `firstName`, `form` for all of it, or the id of
   * a question or a box.
   */
  problems?: Record<string, string>
  mark: Mark
  /**
   * True for a form that is pasted into another site: what robots are caught by is hidden by itself there, and numbers of fields cannot
   * clash.
   */
  plain?: boolean
}

export function formHtml({ form, fields, action, touch, filled, problems = {}, mark, plain, by }: FormView): Html {
  const told = writeTouch(touch)
  const needed = form.asks.some(ask => ask.required) || form.firstName === 'must'
  const questions = form.asks.map(ask => question(ask, fields, filled?.answers[ask.id] ?? [], problems[ask.id]))
  // On the canvas everything is to be seen at once.
  const turns = form.oneByOne && mark === noMark
  const turn = (inside: Html, needed = false) => turns ? html`<div class="turn"${needed && html` data-needed`}>${inside}</div>` : inside
  return html`<form method="post" action="${action}" novalidate${turns && html` data-turns`}>
${problems.form && html`<p class="problem" role="alert">${problems.form}</p>`}
${form.oneByOne && questions.map((one, n) => turn(one, form.asks[n]!.required))}
${turn(html`${whoHtml(form.firstName, filled, problems)}
${!form.oneByOne && questions}
${form.boxes.map(box => tick({ name: box.id, value: 'yes', label: box.wording, ticked: filled?.answers[box.id]?.includes('yes') === true, required: box.required, problem: problems[box.id] }))}
${trap(plain)}
${problems['email-meant'] && html`<input type="hidden" name="meant" value="${filled?.email}">`}
${by && html`<input type="hidden" name="by" value="${by}">`}
${told !== '' && html`<input type="hidden" name="touch" value="${told}">`}
${mark === noMark ? html`<button type="submit">${form.buttonLabel}</button>` : html`<p><span class="as-button"${mark('form/buttonLabel', 'line', 'Words of the button')}>${form.buttonLabel}</span></p>`}
<p class="consent"${mark('form/consentWording', 'line', 'What they agree to')}>${form.consentWording}</p>
${needed && html`<p class="consent">What is not marked as up to them is needed.</p>`}`)}
</form>`
}

/** What robots fill in, and what the script tells of the visitor's zone. */
export const trap = (
  plain = false,
): Html => html`<div ${plain ? html`hidden` : html`class="aside"`} aria-hidden="true"><label for="${TRAP_FIELD}">Leave this empty</label><input id="${TRAP_FIELD}" name="${TRAP_FIELD}" tabindex="-1" autocomplete="off"></div>
<input type="hidden" name="zone" value="" data-zone>`

/** The first name and the address, which every form of ours asks for. */
export const whoHtml = (
  firstName: PageForm['firstName'], filled: Pick<Filled, 'email' | 'firstName'> | undefined, problems: Record<string, string>,
): Html => html`${firstName !== 'no' && line({
  name: 'first_name', label: optional('First name', firstName === 'must'), value: filled?.firstName, problem: problems.firstName,
  rest: html`type="text" autocomplete="given-name" maxlength="80" ${firstName === 'must' && 'required'}`,
})}
${line({ name: 'email', label: 'Email address', value: filled?.email, problem: problems.email ?? problems['email-meant'], rest: html`type="email" autocomplete="email" inputmode="email" required` })}`

const optional = (label: string, required: boolean) => required ? label : `${label} (if you like)`

export function line(input: { name: string, label: string, value?: string, problem?: string, rest: Html }): Html {
  return html`<div class="field"><label for="${input.name}">${input.label}</label>
<input id="${input.name}" name="${input.name}" value="${input.value}" ${input.rest} ${told(input.name, input.problem)}>${problem(input.name, input.problem)}</div>`
}

const told = (name: string, text: string | undefined) => text && html`aria-invalid="true" aria-describedby="${name}-problem" autofocus`
const problem = (name: string, text: string | undefined) => text && html`<p class="problem" id="${name}-problem">${text}</p>`

function tick(box: { name: string, value: string, label: string, ticked: boolean, required: boolean, problem?: string }): Html {
  return html`<div class="tick"><label><input type="checkbox" name="${box.name}" value="${box.value}" ${box.ticked && 'checked'} ${box.required && 'required'} ${told(box.name, box.problem)}> <span>${box.label}</span></label>${problem(box.name, box.problem)}</div>`
}

function question(ask: Ask, fields: FormView['fields'], given: string[], wrong: string | undefined): Html {
  const label = optional(ask.label, ask.required)
  if (ask.kind === 'choice') {
    return group(ask.id, label, ask.many ? 'checkbox' : 'radio', ask.options.map(({ id, label }) => ({ value: id, label })), given, wrong)
  }
  const field = fields.get(ask.fieldId)
  if (!field) return html``
  const text = (rest: Html) =>
    line({ name: ask.id, label, value: given[0], problem: wrong, rest: html`${rest} ${ask.required && 'required'}` })
  switch (field.kind) {
    case 'text': return text(html`type="text" maxlength="500"`)
    case 'number': return text(html`type="text" inputmode="decimal" maxlength="40"`)
    case 'date': return text(html`type="date"`)
    case 'zone': return text(html`type="text" maxlength="64" placeholder="Europe/Lisbon"`)
    case 'yes-no': return group(ask.id, label, 'radio', [{ value: 'yes', label: 'Yes' }, { value: 'no', label: 'No' }], given, wrong)
    case 'choice': return field.choices.length <= 6
      ? group(ask.id, label, 'radio', field.choices.map(value => ({ value, label: value })), given, wrong)
      : select(ask, label, field.choices.map(value => ({ value, label: value })), given[0], wrong)
    case 'country': return select(ask, label, allCountries().map(({ code, name }) => ({ value: code, label: name })), given[0], wrong)
  }
}

interface Option { value: string, label: string }

function group(
  name: string, label: string, type: 'radio' | 'checkbox', options: Option[], given: string[], wrong: string | undefined,
): Html {
  return html`<fieldset ${wrong && html`aria-describedby="${name}-problem"`}><legend>${label}</legend>
${options.map(({ value, label }) => html`<label class="option"><input type="${type}" name="${name}" value="${value}" ${given.includes(value) && 'checked'}> <span>${label}</span></label>`)}${problem(name, wrong)}</fieldset>`
}

function select({ id, required }: Ask, label: string, options: Option[], given: string | undefined, wrong: string | undefined): Html {
  return html`<div class="field"><label for="${id}">${label}</label><select id="${id}" name="${id}" ${required && 'required'} ${told(id, wrong)}><option value=""></option>
${options.map(({ value, label }) => html`<option value="${value}" ${given === value && 'selected'}>${label}</option>`)}</select>${problem(id, wrong)}</div>`
}
