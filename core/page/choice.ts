/** The page on which a reader sees what they chose in an email, and can choose otherwise. */
import { html } from './html'
import { shell, type Face } from './shell'

export interface ChoiceView extends Face {
  action: string
  /** What is said to who has chosen. */
  says: string
  /** The answers in their order. `n`: which link of the email. */
  answers: { n: number, label: string, isChosen: boolean }[]
}

export function renderChoice(view: ChoiceView): string {
  const { action, says, answers } = view
  const chosen = answers.filter(({ isChosen }) => isChosen)
  const title = chosen.length > 0 ? 'Noted' : 'Nothing is noted'
  return shell({ title, robots: 'noindex', ...view }, html`<div class="rest">
<h1>${title}</h1>
${chosen.length > 0
    ? html`<div class="done" role="status"><p>You chose ${chosen.map(({ label }, n) => html`${n > 0 && ', and '}“${label}”`)}.</p>${says && html`<p>${says}</p>`}</div>`
    : html`<p role="status">It is as if you had not clicked.</p>`}
<form method="post" action="${action}"><p>Did you mean something else?</p>
${answers.filter(({ isChosen }) => !isChosen).map(({ n, label }) => html`<p><button class="quiet" name="choose" value="${n}">${label}</button></p>`)}
${chosen.length > 0 && html`<p><button class="quiet" name="choose" value="none">None of them</button></p>`}</form>
</div>`)
}
