import { lazy, Suspense, useEffect } from 'react'
import { useBlocker } from 'react-router'
import { askBeforeLeaving, isAnythingUnsaved, useLeaveQuestion } from '../ui/unsaved.ts'

// seldom seen: what it needs is not part of every page's first load
const LeaveWindow = lazy(() => import('./leave-window.tsx').then((module) => ({ default: module.LeaveWindow })))

/** Asks before a page or a panel is left with something typed in it that was not kept. */
export function LeaveQuestion() {
  const { isAsked, answer } = useLeaveQuestion()
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => isAnythingUnsaved() && currentLocation.pathname !== nextLocation.pathname,
  )
  useEffect(() => {
    if (blocker.state === 'blocked') askBeforeLeaving(() => blocker.proceed())
  }, [blocker])
  const stay = () => {
    if (blocker.state === 'blocked') blocker.reset()
    answer(false)
  }
  return <Suspense>{isAsked && <LeaveWindow onStay={stay} onLeave={() => answer(true)} />}</Suspense>
}
