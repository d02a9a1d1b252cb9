import type { Picture, PictureSubject } from '@fleam/contract/pictures'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useId, useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Modal from 'react-bootstrap/Modal'
import { Camera } from 'react-bootstrap-icons'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { picturesKey, useHasRole, useSession } from '../../api/queries.ts'
import type { PictureLine } from '../../outbox/outbox-line.ts'
import { outbox, useOutbox } from '../../outbox/tablet-outbox.ts'
import { momentText } from '../../ui/days.ts'
import { Warning } from '../../ui/notes.tsx'
import { useChange } from '../../ui/use-change.ts'
import './pictures.scss'
import { NotAPicture, shrink } from './shrink.ts'

interface PicturesProps {
  runId: string
  about: PictureSubject
  defectId?: string
  /** What a picture here shows, such as "the delivery". */
  of: string
  /** The run is not received yet: pictures wait on the tablet until it is. */
  isHeld?: boolean
}

/** Pictures of one thing about a run, with those that wait on this tablet, and the way to add more. */
export function Pictures({ runId, about, defectId, of, isHeld = false }: PicturesProps) {
  const queryClient = useQueryClient()
  const { person } = useSession()
  const { lines } = useOutbox()
  const inputId = useId()
  const [refused, setRefused] = useState<string[]>([])
  const [busy, setBusy] = useState(false)
  const [shown, setShown] = useState<Picture>()
  const { data = [] } = useQuery({
    queryKey: picturesKey(runId),
    queryFn: async () => (await get<{ entries: Picture[] }>(`/runs/${runId}/pictures`)).entries,
    enabled: !isHeld,
  })
  useEffect(
    () =>
      outbox.whenStored((line, stored) => {
        if (!('picture' in stored) || line.kind !== 'picture') return
        queryClient.setQueryData<Picture[]>(picturesKey(line.ofRunId), (known = []) =>
          known.some(({ id }) => id === stored.picture.id) ? known : [...known, stored.picture],
        )
      }),
    [queryClient],
  )
  const isOfThis = (one: { about: PictureSubject; defectId: string | null }) => one.about === about && one.defectId === (defectId ?? null)
  const stored = data.filter(isOfThis)
  const known = new Set(stored.map(({ id }) => id))
  const waiting = lines.filter(
    (line): line is PictureLine => line.kind === 'picture' && line.ofRunId === runId && isOfThis(line) && !known.has(line.id),
  )

  async function add(files: readonly File[]) {
    setRefused([])
    setBusy(true)
    for (const file of files) {
      try {
        const jpeg = await shrink(file)
        await outbox.post({
          id: newId(),
          kind: 'picture',
          ofRunId: runId,
          about,
          defectId: defectId ?? null,
          jpeg,
          isHeld,
          at: new Date().toISOString(),
          person: { id: person.id, name: person.name },
        })
      } catch (error) {
        if (!(error instanceof NotAPicture)) throw error
        setRefused((words) => [...words, error.message])
      }
    }
    setBusy(false)
  }

  return (
    <div className="pictures">
      {stored.map((picture) => (
        <Button key={picture.id} variant="bare" className="picture" onClick={() => setShown(picture)}>
          <img
            src={`/api/v1/runs/${runId}/pictures/${picture.id}?size=small`}
            alt={`${of}, ${picture.by.name}, ${momentText(picture.at)}`}
          />
        </Button>
      ))}
      {waiting.map((line) => (
        <WaitingPicture key={line.id} line={line} of={of} />
      ))}
      <label className="btn btn-plain picture-add no-print" htmlFor={inputId}>
        <Camera aria-hidden="true" /> {busy ? 'Making it small …' : `Picture of ${of}`}
      </label>
      <input
        id={inputId}
        className="visually-hidden"
        type="file"
        accept="image/*"
        multiple
        disabled={busy}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])]
          event.target.value = ''
          void add(files)
        }}
      />
      {refused.map((words) => (
        <Warning key={words}>{words}</Warning>
      ))}
      {shown && <LargePicture picture={shown} of={of} onClose={() => setShown(undefined)} />}
    </div>
  )
}

function WaitingPicture({ line, of }: { line: PictureLine; of: string }) {
  const url = useMemo(() => URL.createObjectURL(new Blob([line.jpeg], { type: 'image/jpeg' })), [line.jpeg])
  useEffect(() => () => URL.revokeObjectURL(url), [url])
  return (
    <span className="picture is-waiting">
      <img src={url} alt={`${of}, kept on this tablet`} />
      <small>{line.refusal ? 'not accepted' : 'on this tablet'}</small>
      {line.isHeld && (
        <Button variant="line" onClick={() => void outbox.dismiss(line.id)}>
          Take it off
        </Button>
      )}
    </span>
  )
}

function LargePicture({ picture, of, onClose }: { picture: Picture; of: string; onClose: () => void }) {
  const queryClient = useQueryClient()
  const { person } = useSession()
  const isLead = useHasRole('lead')
  const [isSure, setSure] = useState(false)
  const { id, runId, by, at } = picture
  const { change, busy, trouble } = useChange<void, boolean>({
    send: async () => {
      await send('DELETE', `/runs/${runId}/pictures/${id}`)
      return true
    },
  })
  async function takeOff() {
    if (!isSure) return setSure(true)
    if (!(await change())) return
    queryClient.setQueryData<Picture[]>(picturesKey(runId), (known = []) => known.filter((one) => one.id !== id))
    onClose()
  }
  return (
    <Modal show onHide={onClose} size="xl" centered aria-label={`Picture of ${of}`}>
      <Modal.Header closeButton>
        <Modal.Title as="h2">
          {by.name}, {momentText(at)}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <img className="picture-large" src={`/api/v1/runs/${runId}/pictures/${id}`} alt={of} />
        {trouble && <Warning>{trouble}</Warning>}
      </Modal.Body>
      {(isLead || by.id === person.id) && (
        <Modal.Footer>
          <Button variant="plain" disabled={busy} onClick={() => void takeOff()}>
            {isSure ? 'Take it off for good' : 'Take it off'}
          </Button>
        </Modal.Footer>
      )}
    </Modal>
  )
}
