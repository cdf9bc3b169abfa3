/** Something that waits for a time: the rows that do, as SQL with a condition, and the column of their time. */
export interface Due { rows: string, at: string }
