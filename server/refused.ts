/** Why a request is turned away, with its HTTP status. */
export class Refused extends Error {
  constructor(readonly status: number, message: string) {
    super(message)
  }
}
