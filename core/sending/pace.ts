/** How fast live mail is handed over. */
export interface SendingPace {
  /** Connections at once, 1 to 20. */
  connections: number
  /** Emails on one connection, 1 to 10,000. */
  messages: number
  /** Emails a minute; null for no limit. */
  aMinute: number | null
}
