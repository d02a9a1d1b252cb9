import { lazy, Suspense, useSyncExternalStore } from 'react'
import { isSessionOver, watchSession } from '../api/session-over.ts'

// seldom seen: what it needs is not part of every page's first load
const AgainForm = lazy(() => import('./again-form.tsx').then((module) => ({ default: module.AgainForm })))

/** Where a session has run out: who was at it signs in again where they stand, and goes on. */
export function SignInAgain() {
  const isOver = useSyncExternalStore(watchSession, isSessionOver)
  return <Suspense>{isOver && <AgainForm />}</Suspense>
}
