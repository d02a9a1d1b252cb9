import { useState } from 'react'

/** A choice that this tablet keeps through a reload. */
export function useRemembered<Value>(key: string, first: Value): [Value, (value: Value) => void] {
  const [value, setValue] = useState<Value>(() => {
    const kept = localStorage.getItem(key)
    if (kept === null) return first
    try {
      return JSON.parse(kept) as Value
    } catch {
      return first
    }
  })
  return [
    value,
    (next) => {
      localStorage.setItem(key, JSON.stringify(next))
      setValue(next)
    },
  ]
}
