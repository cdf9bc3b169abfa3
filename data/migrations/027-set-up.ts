import { nameOfMessage, type MessageContent } from '#core/message/content'
import type { Migration } from './migration'

/** How far the owner has come on the first evening, where no table of a thing says it; and emails without a working title get a name. */
export const setUp: Migration = {
  number: 27,
  name: 'what was rehearsed, whether the first steps are put away, and the names of emails',
  sql: `
ALTER TABLE workspace ADD COLUMN rehearsed_at INTEGER;
ALTER TABLE workspace ADD COLUMN setup_hidden_at INTEGER;
`,
  then(db) {
    const name = db.prepare('UPDATE messages SET working_title = ? WHERE id = ?')
    const unnamed = db.prepare<[], { id: number, content: string }>(`SELECT id, content FROM messages WHERE trim(working_title) = ''`).all()
    for (const { id, content } of unnamed) {
      const { subject = [] } = JSON.parse(content) as Partial<MessageContent>
      name.run(nameOfMessage({ workingTitle: '', subject }), id)
    }
  },
}
