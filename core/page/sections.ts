/** Each section of a page as HTML. */
import { sayMoment, sayZone } from '#core/time/say'
import type { Instant, ZoneName } from '#core/time/zone'
import { instantOf } from '#core/time/zone'
import type { Mark } from './editing'
import { html, richText, type Html } from './html'
import { PAGE_WIDTHS, type PageTheme } from './theme'
import { picturePath, type PictureView } from './picture'
import type { Section, SectionOf } from './section'

export interface SectionView {
  theme: PageTheme
  pictures: ReadonlyMap<number, PictureView>
  /** Puts the workspace's beginning before a path. */
  at(path: string): string
  now: Instant
  zone: ZoneName
  mark: Mark
  /** True on the canvas, where what is hidden or still missing is shown, too. */
  editing: boolean
  /** What visitors press. */
  box: Html
}

export function sectionHtml(section: Section, view: SectionView): Html {
  return html`<section class="${section.kind}${section.hidden && ' hidden'}" id="${section.id}"${view.editing && html` data-section="${section.id}"`}>${bodyOf(section, view)}</section>`
}

function bodyOf(section: Section, view: SectionView): Html {
  const mark: Mark = (path, as, label) => view.mark(`${section.id}/${path}`, as, label)
  const title = (text: string) => (text !== '' || view.editing) && html`<h2${mark('title', 'line', 'Title')}>${text}</h2>`
  switch (section.kind) {
    case 'headline':
      return html`<h1${mark('text', 'line', 'Headline')}>${section.text}</h1>${(section.under !== '' || view.editing) && html`<p class="under"${mark('under', 'line', 'Line under the headline')}>${section.under}</p>`}`
    case 'text':
    case 'footer':
      return html`<div${mark('text', 'rich', section.kind === 'text' ? 'Text' : 'Footer')}>${richText(section.text)}</div>`
    case 'picture':
      return picture(section, view, mark)
    case 'points':
    case 'steps':
      return html`${title(section.title)}<div${mark('list', 'list', section.kind === 'points' ? 'Points' : 'Steps')}>${richText(section.list)}</div>`
    case 'quote':
      return html`<blockquote><p${mark('text', 'line', 'Quote')}>${section.text}</p></blockquote><p class="who"${mark('who', 'line', 'Who said it')}>${section.who}</p>`
    case 'form':
      return html`${title(section.title)}${view.box}`
    case 'countdown':
      return countdown(section, view, mark)
    case 'questions':
      return html`${title(section.title)}${section.questions.map(({ question, answer }, n) => view.editing
        ? html`<div class="details"><p class="summary"${mark(`questions.${n}.question`, 'line', `Question ${n + 1}`)}>${question}</p><div${mark(`questions.${n}.answer`, 'rich', `Answer ${n + 1}`)}>${richText(answer)}</div></div>`
        : html`<details><summary>${question}</summary><div>${richText(answer)}</div></details>`)}`
  }
}

function picture({ pictureId, alt, decorates, caption }: SectionOf<'picture'>, view: SectionView, mark: Mark): Html {
  const known = pictureId === null ? undefined : view.pictures.get(pictureId)
  const words = (caption !== '' || view.editing)
    && html`<figcaption${mark('caption', 'line', 'Words under the picture')}>${caption}</figcaption>`
  if (!known) return html`${view.editing && html`<figure><div class="no-picture">No picture yet</div>${words}</figure>`}`
  const { widths, width, height } = known
  const src = (size: number) => view.at(picturePath(known.id, size))
  return html`<figure><img src="${src(widths.find(one => one >= 960) ?? widths.at(-1)!)}" srcset="${widths.map(size => `${src(size)} ${size}w`).join(', ')}"
 sizes="(max-width: ${PAGE_WIDTHS[view.theme.width].px}px) 100vw, ${PAGE_WIDTHS[view.theme.width].px}px" width="${width}" height="${height}" alt="${decorates ? '' : alt}">${words}</figure>`
}

/** Without the script it names the end; with it, the days, hours and minutes that are left. */
function countdown({ date, time, before, after }: SectionOf<'countdown'>, { now, zone, editing }: SectionView, mark: Mark): Html {
  const until = date === null ? null : instantOf(date, time, zone)
  if (until !== null && until <= now && !editing) return html`<p>${after}</p>`
  const says = until === null ? 'Choose until when it counts' : `until ${sayMoment(until, zone)} (${sayZone(zone)})`
  return html`<p><span${mark('before', 'line', 'Words before the time')}>${before}</span> <strong${until !== null && !editing && html` data-until="${until}" data-now="${now}"`}>${says}</strong></p>
${editing ? html`<p class="once-over"><span>Once it is over:</span> <span${mark('after', 'line', 'Words once it is over')}>${after}</span></p>` : html`<p class="once-over" hidden>${after}</p>`}`
}
