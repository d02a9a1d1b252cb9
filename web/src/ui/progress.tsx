import ProgressBar from 'react-bootstrap/ProgressBar'

/** How far something is, with its name where it is read aloud. */
export function Progress({ now, max = 100, name }: { now: number; max?: number; name: string }) {
  return (
    <ProgressBar>
      <ProgressBar isChild now={now} max={max} aria-label={name} />
    </ProgressBar>
  )
}
