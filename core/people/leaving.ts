/** The one question asked after leaving: optional, and only counted. */
export const LEAVING_ANSWERS = ['too-many', 'not-expected', 'have-it', 'never-asked', 'other'] as const
export type LeavingAnswer = typeof LEAVING_ANSWERS[number]

export const LEAVING_WORDS: Record<LeavingAnswer, string> = {
  'too-many': 'Too many emails',
  'not-expected': 'Not what I expected',
  'have-it': 'I got what I came for',
  'never-asked': 'I never signed up',
  'other': 'Something else',
}

export const LEAVING_QUESTION = 'Why? (optional)'
