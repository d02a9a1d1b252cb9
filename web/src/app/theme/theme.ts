import { useEffect, useSyncExternalStore } from 'react'

/** How the pages are lit: as the tablet says, or as this tablet's people chose. */
export type Theme = 'tablet' | 'light' | 'dark'

const key = 'fleam.theme'
const isDark = matchMedia('(prefers-color-scheme: dark)')
const watchers = new Set<() => void>()

function chosen(): Theme {
  const kept = localStorage.getItem(key)
  return kept === 'light' || kept === 'dark' ? kept : 'tablet'
}

function shown(): 'light' | 'dark' {
  const theme = chosen()
  return theme === 'tablet' ? (isDark.matches ? 'dark' : 'light') : theme
}

/** Lights the page; called before anything is drawn, so that nothing flashes. */
export function lightPage(): void {
  document.documentElement.dataset.bsTheme = shown()
}

export function useTheme(): { shown: 'light' | 'dark'; choose: (theme: Theme) => void } {
  const now = useSyncExternalStore((watcher) => {
    watchers.add(watcher)
    isDark.addEventListener('change', watcher)
    return () => {
      watchers.delete(watcher)
      isDark.removeEventListener('change', watcher)
    }
  }, shown)
  useEffect(lightPage)
  return {
    shown: now,
    choose(theme) {
      localStorage.setItem(key, theme)
      for (const watcher of watchers) watcher()
    },
  }
}
