import type { Migration } from './migration'

export const hands: Migration = {
  number: 18,
  name: 'hands',
  sql: `
-- What was deleted: its row stays for the histories and for who bought or opted in; nothing else finds it.
ALTER TABLE pages ADD COLUMN gone_at INTEGER;
ALTER TABLE offers ADD COLUMN gone_at INTEGER;

-- People on no list have a segment of their own, also in workspaces that were made before it was among the ready ones.
INSERT INTO segments (name, note, condition, code, filled, created_at, changed_at)
SELECT CASE WHEN EXISTS (SELECT 1 FROM segments WHERE name = 'On no list') THEN 'On no list (ready-made)' ELSE 'On no list' END,
  'Active, and on none of your lists: only what they ask for reaches them.',
  '{"kind":"all","of":[{"kind":"all","of":[{"kind":"status","is":["active"]}]},{"kind":"none","of":[{"kind":"list","listId":null,"is":"joined"}]}]}',
  'on-no-list', NOT EXISTS (SELECT 1 FROM people), created_at, created_at
FROM segments WHERE code = 'may-be-mailed' AND NOT EXISTS (SELECT 1 FROM segments WHERE code = 'on-no-list');
`,
}
