/** Part of `npm run lint`: phrases that may not come back in any text, each with what we say instead. */
import { fileURLToPath } from 'node:url'
import { allTexts } from './texts.mjs'
import { main, say } from './say.mjs'

const PHRASES = [
  [/\b(is|are) not there any more\b/, 'no longer exists'],
  [/\bnot known any more\b/, 'no longer known'],
  [/\bany more[.:,;]/, 'no longer …'],
  [/\bdays? of 24 hours\b/, '1 day (24 hours)'],
  [/\bthe step before\b(?! [“\w])/, 'the previous step'],
  [/\bHow it stands\b/, 'Status'],
  [/\bWhat came of it\b/, 'Results'],
  [/\bWho stands where\b/, 'People inside'],
  [/\bWants a look\b/, 'Needs attention'],
  [/\bJust happened\b/, 'Recent activity'],
  [/\bDone to many at once\b/, 'Bulk changes'],
  [/\bWith these \S+ people:/, '494 people: add tag …'],
  [/\bBring in\b/, 'Import'],
  [/\b[Tt]ake along\b|\btaken along\b/, 'export'],
  [/\bless what went back\b/, 'after refunds'],
  [/\b[Tt]heir yes\b|\bsaid yes\b|\bsays? yes\b/, 'confirm'],
  [/\bBring a (picture|file)\b/, 'Add a picture'],
  [/\bWhat following it brings\b/, 'What a click does'],
  [/^nothing by itself$/, 'no actions'],
  [/\bInvented readers\b/, 'Simulated readers'],
  [/\bOpens and clicks waited for\b/, 'Follow-up deadlines'],
  [/\bThere is nothing here\b/, 'Page not found'],
  [/\bcomes? by it\b/, 'source'],
  [/\bstays out, whatever stands\b/, 'are left out'],
  [/\bis to be brought\b/, 'to import'],
  [/\b[Oo]ne press\b|\b(with|at) a press\b/, 'one click'],
  [/\bown memory\b/, 'Notes (only you see them)'],
  [/\b[Ff]ollow(s|ed)? (a|the|one|this|that) link\b/, 'click a link'],
  [/\bbrought by\b/, 'from, source'],
  [/\b[Tt]ake (that|it|this) back\b|\btaken back\b/, 'undo'],
  [/\banew\b/, 'again, reschedule'],
  [/\breckoned\b/, 'counted, calculated'],
  [/\b(that|who) (is|are) gone\b/, 'deleted'],
  [/\b[Ww]hoever\b/, 'people who …, anyone who …'],
  [/\bdate of the calendar\b/, 'date'],
  [/\bbelow nothing\b/, 'below zero'],
  [/\S [Gg]iven up\b|\b[Gg]iven up[ :.]/, 'failed'],
  [/^Leave it$/, 'Cancel'],
  [/^Who (buys|leaves|comes|gets|gives|opens|clicks|joins|fits|ticks|follows|has|is in)\b/, 'people who …, buyers'],
]

/** What a text has of them: `{ phrase, better }`. */
export const phrasesIn = text => PHRASES.flatMap(([phrase, better]) => {
  const [found] = phrase.exec(text) ?? []
  return found === undefined ? [] : [{ phrase: found, better }]
})

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await main(() => {
    const found = allTexts().flatMap(({ file, line, text }) => phrasesIn(text).map(({ phrase, better }) =>
      `${file}:${line}  “${phrase}”: say “${better}”. ${text.slice(0, 120)}`))
    for (const each of found) say(each)
    if (found.length === 0) return
    say(`\n${found.length} phrases that may not come back.`)
    process.exitCode = 1
  })
}
