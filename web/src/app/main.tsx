import '@fontsource/barlow/latin-400.css'
import '@fontsource/barlow/latin-500.css'
import '@fontsource/barlow/latin-600.css'
import '@fontsource/barlow-condensed/latin-500.css'
import '@fontsource/barlow-condensed/latin-600.css'
import './theme/index.scss'
import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { RouterProvider } from 'react-router/dom'
import { openKeptPages } from './kept-pages.ts'
import { NewerPages } from './newer-pages.tsx'
import { queryClient } from './query-client.ts'
import { openRouter } from './router.tsx'
import { lightPage } from './theme/theme.ts'

lightPage()
const place = document.getElementById('root')
if (!place) throw new Error('The page has no place for the application.')
await openKeptPages(queryClient)
const router = openRouter()
createRoot(place).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
      {import.meta.env.PROD && <NewerPages />}
    </QueryClientProvider>
  </StrictMode>,
)
