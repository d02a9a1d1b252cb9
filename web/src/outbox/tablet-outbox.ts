import { useSyncExternalStore } from 'react'
import { say } from '../ui/toasts.ts'
import { createOutbox } from './outbox.ts'
import { sendLine } from './send-line.ts'
import { tabletStore } from './tablet-store.ts'

/** The one outbox of this page. */
export const outbox = createOutbox({ store: tabletStore(), send: sendLine, say })
addEventListener('online', outbox.tryNow)

export function useOutbox() {
  return useSyncExternalStore(outbox.watch, outbox.state)
}
