import { createBrowserRouter, redirect } from 'react-router'
import { sessionQuery } from '../api/queries.ts'
import { Loading } from '../ui/notes.tsx'
import { queryClient } from './query-client.ts'
import { Shell } from './shell.tsx'
import { Trouble } from './trouble.tsx'

/** Pages load their own code when they are opened. */
const page = (load: () => Promise<{ Page: React.ComponentType }>) => async () => ({ Component: (await load()).Page })

async function signedInOnly({ request }: { request: Request }) {
  const session = await queryClient.ensureQueryData(sessionQuery)
  if (session) return null
  const { pathname, search } = new URL(request.url)
  throw redirect(`/sign-in${pathname === '/' ? '' : `?to=${encodeURIComponent(pathname + search)}`}`)
}

/** What a page is called in the tablet's list of pages. */
const named = (title: string) => ({ handle: { title } })

export const openRouter = () =>
  createBrowserRouter([
    {
      errorElement: <Trouble />,
      hydrateFallbackElement: <Loading what="the kitchen" />,
      children: [
        { path: '/sign-in', lazy: page(() => import('../features/session/sign-in-page.tsx')) },
        { path: '/set-up', lazy: page(() => import('../features/session/set-up-page.tsx')) },
        {
          path: '/',
          element: <Shell />,
          loader: signedInOnly,
          shouldRevalidate: () => false,
          children: [
            {
              errorElement: <Trouble />,
              children: [
                { index: true, ...named('Board'), lazy: page(() => import('../features/board/board-page.tsx')) },
                { path: 'receive', ...named('Receive'), lazy: page(() => import('../features/runs/receive-page.tsx')) },
                { path: 'receive/paper', ...named('Enter from paper'), lazy: page(() => import('../features/runs/paper-page.tsx')) },
                { path: 'bench', ...named('Benches'), lazy: page(() => import('../features/runs/bench/benches-page.tsx')) },
                { path: 'bench/:id', ...named('Bench'), lazy: page(() => import('../features/runs/bench/bench-page.tsx')) },
                { path: 'runs/:id/finish', ...named('Finish and cost'), lazy: page(() => import('../features/runs/finish-page.tsx')) },
                {
                  path: 'runs/:id/put-right',
                  ...named('Put a run right'),
                  lazy: page(() => import('../features/runs/put-right-page.tsx')),
                },
                { path: 'runs/:id', ...named('Result'), lazy: page(() => import('../features/runs/result-page.tsx')) },
                { path: 'cut-sheets', ...named('Cut sheets'), lazy: page(() => import('../features/cut-sheets/cut-sheets-page.tsx')) },
                { path: 'cut-sheets/:id', ...named('Cut sheet'), lazy: page(() => import('../features/cut-sheets/cut-sheet-page.tsx')) },
                {
                  path: 'cut-sheets/:id/drawing',
                  ...named('Drawing'),
                  lazy: page(() => import('../features/cut-sheets/drawing-page.tsx')),
                },
                {
                  path: 'cut-sheets/:id/edit',
                  ...named('Change a cut sheet'),
                  lazy: page(() => import('../features/cut-sheets/sheet-editor-page.tsx')),
                },
                { path: 'school', ...named('Practise'), lazy: page(() => import('../features/practice/practice-page.tsx')) },
                { path: 'school/cut', ...named('Cut on screen'), lazy: page(() => import('../features/practice/cut-page.tsx')) },
                { path: 'school/eye', ...named('By eye'), lazy: page(() => import('../features/practice/eye-page.tsx')) },
                { path: 'school/pace', ...named('Pace'), lazy: page(() => import('../features/practice/pace-page.tsx')) },
                { path: 'school/progress', ...named('Progress'), lazy: page(() => import('../features/practice/progress-page.tsx')) },
                { path: 'school/classes', ...named('Classes'), lazy: page(() => import('../features/classes/classes-page.tsx')) },
                {
                  path: 'school/classes/:id',
                  ...named('Exercise'),
                  lazy: page(() => import('../features/classes/exercise-page.tsx')),
                },
                { path: 'plan', ...named('Plan'), lazy: page(() => import('../features/plan/plan-page.tsx')) },
                {
                  path: 'plan/fillet',
                  ...named('Plan a fillet'),
                  lazy: async () => ({ Component: (await import('../features/plan/plan-page.tsx')).FilletPage }),
                },
                { path: 'plan/rack', ...named('Plan a rack'), lazy: page(() => import('../features/plan/rack-page.tsx')) },
                { path: 'plan/pair', ...named('Plan a bonded pair'), lazy: page(() => import('../features/plan/pair-page.tsx')) },
                { path: 'days', ...named('Days'), lazy: page(() => import('../features/days/days-page.tsx')) },
                { path: 'days/:id', ...named('A day'), lazy: page(() => import('../features/days/day-page.tsx')) },
                { path: 'days/:id/hands', ...named('Who and where'), lazy: page(() => import('../features/days/hands-page.tsx')) },
                { path: 'days/:id/schedule', ...named('When it starts'), lazy: page(() => import('../features/days/schedule-page.tsx')) },
                { path: 'days/:id/sheets', ...named('Sheets'), lazy: page(() => import('../features/days/sheets-page.tsx')) },
                { path: 'compare', ...named('Cut or buy'), lazy: page(() => import('../features/compare/decisions-page.tsx')) },
                { path: 'compare/parts', ...named('Value in parts'), lazy: page(() => import('../features/compare/parts-page.tsx')) },
                {
                  path: 'compare/parts/:itemId',
                  ...named('Value in parts'),
                  lazy: page(() => import('../features/compare/item-parts-page.tsx')),
                },
                { path: 'compare/steps', ...named('Is a step worth it'), lazy: page(() => import('../features/compare/steps-page.tsx')) },
                {
                  path: 'compare/suppliers',
                  ...named('Which supplier'),
                  lazy: page(() => import('../features/compare/suppliers-page.tsx')),
                },
                { path: 'compare/portion', ...named('Compare'), lazy: page(() => import('../features/compare/portion-page.tsx')) },
                {
                  path: 'compare/kept/:id',
                  ...named('Compare'),
                  lazy: async () => ({ Component: (await import('../features/compare/portion-page.tsx')).KeptPage }),
                },
                {
                  path: 'walk-in/follow-ons',
                  ...named('Made of it'),
                  lazy: page(() => import('../features/follow-ons/follow-ons-page.tsx')),
                },
                {
                  path: 'walk-in/follow-ons/:id',
                  ...named('Follow-on'),
                  lazy: page(() => import('../features/follow-ons/follow-on-page.tsx')),
                },
                {
                  path: 'walk-in/ways',
                  ...named('Ways of making'),
                  lazy: page(() => import('../features/follow-ons/sheets-page.tsx')),
                },
                {
                  path: 'walk-in/trace/:lotId?',
                  ...named('Finding again'),
                  lazy: page(() => import('../features/walk-in/trace-page.tsx')),
                },
                { path: 'walk-in/:lotId?', ...named('Walk-in'), lazy: page(() => import('../features/walk-in/walk-in-page.tsx')) },
                { path: 'log', ...named('Yield log'), lazy: page(() => import('../features/runs/log-page.tsx')) },
                { path: 'log/yield-book', ...named('Yield book'), lazy: page(() => import('../features/yield-book/yield-book-page.tsx')) },
                {
                  path: 'log/day/:day?',
                  ...named('Food-safety record'),
                  lazy: page(() => import('../features/safety/day-record-page.tsx')),
                },
                { path: 'receive/boxes', ...named('Receive boxes'), lazy: page(() => import('../features/runs/boxes-page.tsx')) },
                { path: 'log/claims', ...named('Claims'), lazy: page(() => import('../features/claims/claims-page.tsx')) },
                { path: 'log/claims/:id', ...named('Claim'), lazy: page(() => import('../features/claims/claim-page.tsx')) },
                { path: 'kitchen', loader: () => redirect('/kitchen/prices') },
                { path: 'kitchen/prices', ...named('Prices'), lazy: page(() => import('../features/prices/prices-page.tsx')) },
                { path: 'kitchen/people', ...named('People'), lazy: page(() => import('../features/people/people-page.tsx')) },
                {
                  path: 'kitchen/limits',
                  ...named('Units, labour, limits'),
                  lazy: page(() => import('../features/kitchen/limits-page.tsx')),
                },
                { path: 'kitchen/dishes', ...named('Dishes'), lazy: page(() => import('../features/dishes/dishes-page.tsx')) },
                { path: 'kitchen/changes', ...named('What was changed'), lazy: page(() => import('../features/kitchen/changes-page.tsx')) },
                { path: 'kitchen/tablets', ...named('Tablets'), lazy: page(() => import('../features/kitchen/tablets-page.tsx')) },
                {
                  path: 'kitchen/side-by-side',
                  ...named('Kitchens side by side'),
                  lazy: page(() => import('../features/kitchens/side-by-side-page.tsx')),
                },
                { path: 'account', ...named('Your account'), lazy: page(() => import('../features/session/account-page.tsx')) },
                { path: '*', ...named('Not here'), lazy: page(() => import('./nowhere-page.tsx')) },
              ],
            },
          ],
        },
      ],
    },
  ])
