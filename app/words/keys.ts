/** The keys that do something, for the list of them. Those of a text field are the ones every program has. */
export const KEYS: { where: string, keys: { press: string[], does: string }[] }[] = [
  { where: 'Everywhere', keys: [
    { press: ['Ctrl', 'K'], does: 'Find anything, or begin something new' },
    { press: ['Ctrl', 'Z'], does: 'Undo the last change' },
    { press: ['?'], does: 'Show this list' },
    { press: ['Esc'], does: 'Close what is open' },
  ] },
  { where: 'In a course', keys: [
    { press: ['Enter'], does: 'While subjects are edited in place: to the next subject' },
    { press: ['Shift', 'Enter'], does: 'To the previous subject' },
    { press: ['Tab'], does: 'To the time of the same email, and on' },
  ] },
  { where: 'While writing', keys: [
    { press: ['Ctrl', 'B'], does: 'Bold' }, { press: ['Ctrl', 'I'], does: 'Italic' }, { press: ['Ctrl', 'Z'], does: 'Undo' },
    { press: ['Ctrl', 'Shift', 'Z'], does: 'Redo' },
  ] },
]
