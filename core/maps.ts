/** The value of a key; where there is none, one is made and kept. */
export function within<Key, Value>(map: Map<Key, Value>, key: Key, make: () => Value): Value {
  let value = map.get(key)
  if (value === undefined) map.set(key, value = make())
  return value
}
