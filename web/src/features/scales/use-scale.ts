import type { LiveReading, Scale } from '@fleam/contract/scales'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { get, send } from '../../api/http.ts'
import { useRemembered } from '../../ui/remembered.ts'
import { latestReading } from './latest-reading.ts'

export type ScaleState =
  | { kind: 'none' }
  | { kind: 'connecting'; name: string }
  | { kind: 'reading'; name: string }
  | { kind: 'lost'; name: string; why: string }

const retryMs = 1500

/** The bench scale that this tablet listens to. Without one, or when it is lost, weights are typed. */
export function useScale(onReading: (reading: LiveReading) => void) {
  const { data } = useQuery({ queryKey: ['scales'], queryFn: () => get<{ entries: Scale[] }>('/scales'), staleTime: 60_000 })
  const scales = data?.entries ?? []
  const [chosenId, choose] = useRemembered<string>('fleam.scale', '')
  const scale = chosenId === 'by-hand' ? undefined : (scales.find((one) => one.id === chosenId) ?? scales[0])
  const [state, setState] = useState<ScaleState>({ kind: 'none' })
  const [latest] = useState(latestReading)
  const id = scale?.id
  const name = scale?.name ?? ''
  const now = useRef(onReading)
  now.current = onReading
  useEffect(() => {
    if (id === undefined) {
      latest.set(undefined)
      return setState({ kind: 'none' })
    }
    let source: EventSource | undefined
    let retry: ReturnType<typeof setTimeout> | undefined
    const lose = (why: string) => {
      source?.close()
      latest.set(undefined)
      setState({ kind: 'lost', name, why })
      clearTimeout(retry)
      retry = setTimeout(open, retryMs)
    }
    const open = () => {
      source = new EventSource(`/api/v1/scales/${id}/live`)
      source.addEventListener('reading', (message) => {
        const reading = JSON.parse(message.data) as LiveReading
        setState((known) => (known.kind === 'reading' && known.name === name ? known : { kind: 'reading', name }))
        now.current(reading)
        latest.set(reading)
      })
      source.addEventListener('lost', (message) => lose((JSON.parse(message.data) as { why: string }).why))
      source.onerror = () => lose('The server cannot be reached, and the scale with it.')
    }
    setState({ kind: 'connecting', name })
    open()
    return () => {
      clearTimeout(retry)
      source?.close()
    }
  }, [id, name, latest])
  return {
    scales,
    chosenId: scale?.id ?? 'by-hand',
    choose,
    state,
    latest,
    tare: (what: 'tare' | 'clear-tare' = 'tare') =>
      id === undefined ? Promise.resolve() : send('POST', `/scales/${id}/commands`, { do: what }),
  }
}
