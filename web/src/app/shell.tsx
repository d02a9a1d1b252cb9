import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Suspense } from 'react'
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
import { SignInAgain } from './sign-in-again.tsx'
import { useTheme } from './theme/theme.ts'
import { Toasts } from './toasts.tsx'

const places = [
  { to: '/', name: 'Board', end: true },
  { to: '/bench', name: 'Bench', end: false },
  { to: '/cut-sheets', name: 'Cut sheets', end: false },
  { to: '/walk-in', name: 'Walk-in', end: false },
  { to: '/days', name: 'Days', end: false },
  { to: '/plan', name: 'Plan', end: false },
  { to: '/compare', name: 'Compare', end: false },
  { to: '/log', name: 'Yield log', end: false },
  { to: '/kitchen', name: 'Kitchen', end: false },
]

/** Pages for people who are signed in; a session that has run out leads to the door and back. */
export function Shell() {
  const { data: session } = useQuery(sessionQuery)
  const { pathname, search } = useLocation()
  if (!session) return <Navigate to={`/sign-in?to=${encodeURIComponent(pathname + search)}`} replace />
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
  const { pathname, search } = useLocation()
  standIn(kitchen.settings)
  const navigation = useNavigation()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const { shown, choose } = useTheme()
  const lightWords = shown === 'dark' ? 'Light pages' : 'Dark pages'
  async function leave() {
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
          {places.map((place) => (
            <NavLink key={place.to} to={place.to} end={place.end}>
              {place.name}
            </NavLink>
          ))}
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
