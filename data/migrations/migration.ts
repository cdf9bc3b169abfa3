import type { Database } from '../connection'

/** One step of the schema. */
export interface Migration {
  number: number
  name: string
  sql: string
  /** True if tables are made anew under their old names: other tables' references to them are then only checked at the end. */
  rebuilds?: true
  /** Done after the SQL, in the same transaction: what SQL cannot say. */
  then?(db: Database): void
}
