import { v7 as uuidv7 } from 'uuid'

/** A UUID version 7 for something that is made here; a repeat of its POST is recognised by it. */
export function newId(): string {
  return uuidv7()
}
