import type { Migration } from './migration'

/** The emails of a waiting list as they were when it learned to keep its word; later templates change nothing here. */
const mail = (workingTitle: string, subject: string, preview: string, ...content: object[]) => JSON.stringify({
  workingTitle, subject: [{ type: 'text', text: subject }], preview: [{ type: 'text', text: preview }], body: { type: 'doc', content },
})
const says = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] })
const button = (label: string) => ({ type: 'ownButton', attrs: { label } })

const CONFIRM = mail(
  'Waiting list: please confirm', 'Shall we tell you when it opens?', 'One press, and you are on the waiting list.',
  says('Hello,'), says('this address was typed on our waiting list. Please confirm that it was you, and nobody else.'), button('Yes, tell me'),
  says('If it was not you, you need do nothing at all.'),
)
const OPENING = mail(
  'Waiting list: it can be bought', 'It can be bought now', 'You asked to hear of it first.',
  says('Hello,'), says('you asked to hear when this can be bought. Now it can:'), button('Have a look'),
  says('This is the only email you get about it because you waited.'),
)

const withMails = (column: string) => `json_set(${column}, '$.waiting.asks', json('true'), '$.waiting.confirm', json('${CONFIRM}'),
  '$.waiting.opening', json('${OPENING}'), '$.waiting.turnHours', 24)`

export const waiting: Migration = {
  number: 19,
  name: 'waiting',
  sql: `
CREATE TABLE waits (
  -- Somebody waits to hear that an offer can be bought. It counts once it is confirmed; it is over once they were told, or it has ended.
  -- Its event is the latest press of the button. Where places are few it is their turn until turn_until_at.
  id INTEGER PRIMARY KEY, offer_id INTEGER NOT NULL REFERENCES offers (id), person_id INTEGER NOT NULL REFERENCES people (id),
  event_id INTEGER NOT NULL REFERENCES events (id), answers TEXT NOT NULL, asked_at INTEGER NOT NULL,
  mailed_at INTEGER, mails INTEGER NOT NULL DEFAULT 0, confirmed_at INTEGER, told_at INTEGER, turn_until_at INTEGER, ended_at INTEGER
) STRICT;
CREATE UNIQUE INDEX waits_open ON waits (offer_id, person_id) WHERE told_at IS NULL AND ended_at IS NULL;
CREATE INDEX waits_in_line ON waits (offer_id, confirmed_at, id) WHERE confirmed_at IS NOT NULL AND told_at IS NULL AND ended_at IS NULL;
CREATE INDEX waits_turns ON waits (offer_id, turn_until_at) WHERE turn_until_at IS NOT NULL;
CREATE INDEX waits_of_person ON waits (person_id);

-- When it is to be looked next whether those who wait can be told.
ALTER TABLE offers ADD COLUMN opening_due_at INTEGER;
CREATE INDEX offers_opening ON offers (opening_due_at) WHERE opening_due_at IS NOT NULL;

-- Empty in versions without a waiting list, and in those of before: nobody is told by words that their owner never saw.
ALTER TABLE offer_versions ADD COLUMN opening_message_id INTEGER REFERENCES messages (id);
ALTER TABLE offer_versions ADD COLUMN wait_confirm_message_id INTEGER REFERENCES messages (id);

UPDATE offers SET draft = ${withMails('draft')} WHERE json_type(draft, '$.waiting') = 'object';
UPDATE offer_versions SET content = ${withMails('content')} WHERE json_type(content, '$.waiting') = 'object';

-- Who pressed the button before waits still, unless they have bought it since.
INSERT INTO waits (offer_id, person_id, event_id, answers, asked_at, confirmed_at)
SELECT e.offer_id, e.person_id, max(e.id), '{"firstName":"","zone":null,"ip":null,"consent":""}', max(e.at), max(e.at)
FROM events e JOIN people p ON p.id = e.person_id AND p.gone IS NULL JOIN offers o ON o.id = e.offer_id AND o.gone_at IS NULL
WHERE e.kind = 'waits-for-offer' AND NOT EXISTS (SELECT 1 FROM purchases u WHERE u.offer_id = e.offer_id AND u.person_id = e.person_id)
GROUP BY e.offer_id, e.person_id;
`,
}
