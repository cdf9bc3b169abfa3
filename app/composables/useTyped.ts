/**
 * A value that is typed as text: it counts once the field is left or Enter is pressed. What cannot be read stays to be corrected, is said,
 * and changes nothing.
 */
import { ref, watch, type Ref } from 'vue'

export interface TypedAs<Value> {
  /** How the value stands in the field. */
  show(value: Value): string
  /** Null for what cannot be read. */
  read(typed: string): Value | null
  /** Ends the sentence that says so: `a time. Type it like 09:30.` */
  shape: string
}

export function useTyped<Value>(value: Ref<Value>, { show, read, shape }: TypedAs<Value>) {
  const text = ref(show(value.value))
  const problem = ref<string | null>(null)
  watch(value, (now) => {
    text.value = show(now)
    problem.value = null
  })
  function take(): void {
    const now = read(text.value)
    if (now === null) {
      problem.value = `“${text.value.trim()}” cannot be read as ${shape}`
      return
    }
    problem.value = null
    value.value = now
    text.value = show(now)
  }
  return { text, problem, take }
}
