/** The lists, tags and fields of the practice workspace, for whatever names them. */
export interface Marks {
  lettersId: number
  copticId: number
  longStitchId: number
  marblingId: number
  fieldIds: { books: number, press: number, birthday: number }
}
