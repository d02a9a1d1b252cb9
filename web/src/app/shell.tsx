import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useSyncExternalStore } from 'react'
import Button from 'react-bootstrap/Button'
import { Moon, Sun } from 'react-bootstrap-icons'
import { Link, Navigate, NavLink, Outlet, ScrollRestoration, useLocation, useMatches, useNavigate, useNavigation } from 'react-router'
import { sessionQuery, useSession } from '../api/queries.ts'
import { sessionIsSettled } from '../api/session-over.ts'
import { signOut } from '../api/sign-out.ts'
import { OutboxStatus } from '../features/runs/outbox-status.tsx'
import { standIn } from '../ui/days.ts'
import { Loading } from '../ui/notes.tsx'
import { LeaveQuestion } from './leave-question.tsx'
import { placesOf } from './places.ts'
import { SignInAgain } from './sign-in-again.tsx'
import { useTheme } from './theme/theme.ts'
import { Toasts } from './toasts.tsx'

const FurtherPlaces = lazy(() => import('./further-places.tsx').then((module) => ({ default: module.FurtherPlaces })))

/** Where the bar has no room for every place. */
const shortBar = window.matchMedia('(max-width: 1023px)')
function watchBar(onChange: () => void): () => void {
  shortBar.addEventListener('change', onChange)
  return () => shortBar.removeEventListener('change', onChange)
}

/** Pages for people who are signed in; a session that has run out leads to the door and back. */
export function Shell() {
  const { data: session } = useQuery(sessionQuery)
  const { pathname, search } = useLocation()
  if (!session) return <Navigate to={`/sign-in?to=${encodeURIComponent(pathname + search)}`} replace />
  if (session.person.role === 'student' && pathname === '/') return <Navigate to="/school/classes" replace />
  return <SignedInShell />
}

interface Titled {
  title: string
}

function isTitled(handle: unknown): handle is Titled {
  return typeof (handle as Titled | undefined)?.title === 'string'
}

/** Past the bar, for who goes by the keys. */
function skipToPage(): void {
  const page = document.querySelector('main')
  page?.setAttribute('tabindex', '-1')
  page?.focus()
}

/** The bar at the top and the place that is open below it. */
function SignedInShell() {
  const { person, kitchen, tablet } = useSession()
  standIn(kitchen.settings)
  const navigation = useNavigation()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const { shown, choose } = useTheme()
  const isShort = useSyncExternalStore(watchBar, () => shortBar.matches)
  const lightWords = shown === 'dark' ? 'Light pages' : 'Dark pages'
  async function leave() {
    // where one is by the address: the bar may not have been drawn anew yet
    const { pathname, search } = window.location
    await signOut()
    queryClient.clear()
    sessionIsSettled()
    // on a tablet of the kitchen the next person goes on where this one was, save where that is one person's or a role's
    const isShared = tablet !== null && !/^\/(account|kitchen)\b/.test(pathname)
    navigate(isShared ? `/sign-in?to=${encodeURIComponent(pathname + search)}` : '/sign-in')
  }
  const title = useMatches().findLast(({ handle }) => isTitled(handle))?.handle as Titled | undefined
  return (
    <div className="shell">
      <title>{title ? `${title.title} · Fleam` : 'Fleam'}</title>
      <Button variant="act" className="visually-hidden-focusable skip" onClick={skipToPage}>
        To the page
      </Button>
      <header className="top-bar">
        <span className="wordmark">FLEAM</span>
        <nav aria-label="Places">
          {placesOf(person.role)
            .filter(({ isNear }) => isNear || !isShort)
            .map((place) => (
              <NavLink key={place.to} to={place.to} end={place.end}>
                {place.name}
              </NavLink>
            ))}
          {isShort && person.role !== 'student' && (
            <Suspense>
              <FurtherPlaces role={person.role} />
            </Suspense>
          )}
        </nav>
        <OutboxStatus />
        <Link to="/account" className="who">
          {person.name} · {person.role}
        </Link>
        <Button variant="bare" className="leave" onClick={() => choose(shown === 'dark' ? 'light' : 'dark')} aria-label={lightWords}>
          {shown === 'dark' ? <Sun /> : <Moon />}
        </Button>
        <Button variant="bare" className="leave" onClick={leave}>
          {tablet ? 'Somebody else' : 'Sign out'}
        </Button>
        {navigation.state !== 'idle' && <span className="going" />}
      </header>
      <ScrollRestoration />
      <LeaveQuestion />
      <SignInAgain />
      <Toasts />
      <Suspense fallback={<Loading what="the page" />}>
        <Outlet />
      </Suspense>
    </div>
  )
}
