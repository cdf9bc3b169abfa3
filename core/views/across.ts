/** What came of copying something to the other workspace. */
export type CopyAcross =
  /** There is one of this name: whether its draft is to be replaced is to be said first. */
  | { is: 'asks', name: string }
  /** `alongside`: what was made there for it, in words like `the tag “coptic”`. */
  | { is: 'done', id: number, replaced: boolean, alongside: string[] }
