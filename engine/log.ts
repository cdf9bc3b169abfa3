/** What the engine writes its log with. */
export interface Log {
  info(what: object, text: string): void
  warn(what: object, text: string): void
  error(what: object, text: string): void
}
