import type { Exercise, StudentResult } from '@fleam/contract/classes'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import ButtonGroup from 'react-bootstrap/ButtonGroup'
import { Link } from 'react-router'
import { LinesField, TextField } from '../../ui/fields.tsx'
import { SidePanel } from '../../ui/side-panel.tsx'
import { Pictures } from '../pictures/pictures.tsx'

interface MarkPanelProps {
  exercise: Exercise
  result: StudentResult
  onMark: (personId: string, criterion: string, mark: number | null, word: string) => void
  onClose: () => void
}

const marks = [0, 1, 2, 3, 4]

/** The marks of one student: a tap a mark, a word where there is one to say, a picture of the tray. */
export function MarkPanel({ exercise, result, onMark, onClose }: MarkPanelProps) {
  const { student, given, computed, runId, score } = result
  const rubric = exercise.task.kind === 'bench' ? exercise.task.rubric : []
  const [word, setWord] = useState(given['']?.word ?? '')
  return (
    <SidePanel title={student.name} onClose={onClose} isWide>
      <div className="stack">
        {rubric.map(({ key, name, look, weight }) => (
          <CriterionMarks
            key={key}
            name={name}
            look={weight === 1 ? look : `${look}${look && ' · '}counts ${weight}`}
            given={given[key]}
            onMark={(mark, said) => onMark(student.id, key, mark, said)}
          />
        ))}
        {score !== null && <p>First try on screen: {Math.floor(score * 10) / 10} of 100.</p>}
        {computed.length > 0 && (
          <section>
            <h3>From the scale</h3>
            <ul className="computed-marks">
              {computed.map(({ key, name, mark, why }) => (
                <li key={key}>
                  <b>{mark}</b> {name}
                  <small>{why}</small>
                </li>
              ))}
            </ul>
          </section>
        )}
        <LinesField label="A word on the whole" value={word} onChange={setWord} />
        <div className="actions">
          <Button
            variant="act"
            disabled={word.trim() === (given['']?.word ?? '')}
            onClick={() => onMark(student.id, '', null, word.trim())}
          >
            Keep the word
          </Button>
        </div>
        {runId && (
          <section>
            <h3>The tray</h3>
            <Pictures runId={runId} about="tray" of="the tray" />
          </section>
        )}
        <div className="actions">
          {runId && (
            <Link className="btn btn-plain" to={`/runs/${runId}`}>
              See the run
            </Link>
          )}
          <a
            className="btn btn-plain"
            href={`/api/v1/exercises/${exercise.id}/students/${student.id}/page.pdf`}
            target="_blank"
            rel="noreferrer"
          >
            One page (PDF)
          </a>
        </div>
      </div>
    </SidePanel>
  )
}

interface CriterionMarksProps {
  name: string
  look: string
  given: { mark: number | null; word: string } | undefined
  onMark: (mark: number | null, word: string) => void
}

function CriterionMarks({ name, look, given, onMark }: CriterionMarksProps) {
  const [word, setWord] = useState<string>()
  const said = word ?? given?.word ?? ''
  return (
    <section className="criterion-marks">
      <div>
        <strong>{name}</strong>
        {look && <small>{look}</small>}
      </div>
      <ButtonGroup aria-label={`Mark for ${name}`}>
        {marks.map((mark) => (
          <Button
            key={mark}
            variant="choice"
            active={given?.mark === mark}
            aria-pressed={given?.mark === mark}
            // pressed again it is taken away
            onClick={() => onMark(given?.mark === mark ? null : mark, said)}
          >
            {mark}
          </Button>
        ))}
      </ButtonGroup>
      {said === '' && word === undefined ? (
        <Button variant="link" className="add-word" aria-label={`Add a word on ${name.toLowerCase()}`} onClick={() => setWord('')}>
          Add a word
        </Button>
      ) : (
        <TextField
          autoFocus={word === ''}
          label={`A word on ${name.toLowerCase()}`}
          value={said}
          onChange={setWord}
          onBlur={() => {
            if (word !== undefined && word.trim() !== (given?.word ?? '')) onMark(given?.mark ?? null, word.trim())
            setWord(undefined)
          }}
        />
      )}
    </section>
  )
}
