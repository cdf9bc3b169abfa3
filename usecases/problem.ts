/** What a use case refuses, in words for the person at the screen. */

export interface FieldProblem { field: string, problem: string }

/** Bad input: each problem names its field and says what would be right. */
export class InputProblem extends Error {
  constructor(readonly problems: FieldProblem[]) {
    super(problems.map(({ problem }) => problem).join(' '))
  }
}

/** The thing asked for is not there. */
export class NotThere extends Error {}

/** What was to be changed has been changed by somebody else since it was seen. */
export class ChangedElsewhere extends Error {}

/** The thing is there, but this cannot be done with it as it stands. */
export class NotNow extends Error {}
