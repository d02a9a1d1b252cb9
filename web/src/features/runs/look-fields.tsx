import type { Animal } from '@fleam/contract/prices'
import type { DeliveryCheck } from '@fleam/contract/runs'
import { inWords, type LookKey, looksAt, wrongOf } from '@fleam/core/receiving/delivery-check'
import { useState } from 'react'
import { Choice, numberOrNull, TextField, WeightField } from '../../ui/fields.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'

export interface LookEntry {
  looked: Partial<Record<LookKey, string>>
  outcome: DeliveryCheck['outcome']
  note: string
  refused: string
  refusedPieces: string
}

export const nothingLooked: LookEntry = { looked: {}, outcome: 'taken', note: '', refused: '', refusedPieces: '' }

/** What is sent of what was looked at; nothing where nothing was. */
export function lookOf({ looked, outcome, note, refused, refusedPieces }: LookEntry, animal: Animal, withUnit: (text: string) => string) {
  const answers = looksAt(animal).flatMap(({ key }) => (looked[key] ? [[key, looked[key]]] : []))
  if (answers.length === 0 && outcome === 'taken') return null
  const isInPart = outcome === 'in-part'
  return {
    looked: Object.fromEntries(answers),
    outcome,
    note: outcome === 'taken' ? '' : note,
    refused: isInPart && refused.trim() !== '' ? withUnit(refused) : null,
    refusedPieces: isInPart ? numberOrNull(refusedPieces) : null,
  }
}

interface LookFieldsProps {
  animal: Animal
  value: LookEntry
  onChange: (value: LookEntry) => void
  /** What was refused of it, by its place in the request. */
  refusalOf: (path: string) => string | undefined
  /** Whether all of it is turned away: then nothing is taken. */
  isTurnedAway: boolean
}

/** What is looked at when something comes, as its kind needs it, and what is made of it. */
export function LookFields({ animal, value, onChange, refusalOf, isTurnedAway }: LookFieldsProps) {
  const looks = looksAt(animal)
  const wrong = wrongOf(animal, value.looked)
  const [isOpen, setOpen] = useState(wrong.length > 0)
  const answer = (key: LookKey, said: string) => {
    const looked = { ...value.looked, [key]: said }
    const isWrong = wrongOf(animal, looked).length > 0
    onChange({ ...value, looked, outcome: isWrong && value.outcome === 'taken' ? 'with-note' : isWrong ? value.outcome : 'taken' })
  }
  return (
    <fieldset className="stack looks">
      <legend>Looked at</legend>
      <Choice
        label="How it looks"
        value={isOpen ? 'wrong' : Object.keys(value.looked).length > 0 ? 'fine' : ''}
        onChange={(how) => {
          setOpen(how === 'wrong')
          const asItShouldBe = looks.map(({ key, answers: [fine = ''] }) => [key, fine])
          onChange({ ...nothingLooked, looked: how === '' ? {} : Object.fromEntries(asItShouldBe) })
        }}
        options={[
          { value: '', label: 'Not noted' },
          { value: 'fine', label: 'All as it should be' },
          { value: 'wrong', label: 'Something is not …' },
        ]}
      />
      {isOpen && (
        <div className="looks-grid">
          {looks.map(({ key, asks, answers }) => (
            <div key={key} className="look">
              <span>{asks}</span>
              <Choice
                label={asks}
                value={value.looked[key] ?? ''}
                onChange={(said) => answer(key, said)}
                options={answers.map((one) => ({ value: one, label: one }))}
              />
            </div>
          ))}
        </div>
      )}
      {wrong.length > 0 && !isTurnedAway && (
        <div className="decision stack">
          <Warning>It came with {inWords(animal, value.looked)}. What is done with it?</Warning>
          <Choice
            label="What is done with it"
            value={value.outcome}
            onChange={(outcome) => onChange({ ...value, outcome })}
            options={[
              { value: 'with-note', label: 'Taken, with a note' },
              { value: 'in-part', label: 'Refused in part' },
            ]}
          />
          {refusalOf('deliveryCheck.outcome') && <Warning>{refusalOf('deliveryCheck.outcome')}</Warning>}
          <div className="fields">
            <TextField
              label="What was wrong, and what was done"
              value={value.note}
              onChange={(note) => onChange({ ...value, note })}
              error={refusalOf('deliveryCheck.note')}
            />
            {value.outcome === 'in-part' && (
              <>
                <WeightField
                  label="Weight that goes back"
                  value={value.refused}
                  onChange={(refused) => onChange({ ...value, refused })}
                  error={refusalOf('deliveryCheck.refused')}
                  hint="it is not in the received weight; the invoice stands until the supplier credits it"
                />
                <TextField
                  label="Pieces that go back"
                  value={value.refusedPieces}
                  onChange={(refusedPieces) => onChange({ ...value, refusedPieces })}
                  inputMode="numeric"
                  error={refusalOf('deliveryCheck.refusedPieces')}
                />
              </>
            )}
          </div>
          <Caution>
            What smells off, was warm or is spoiled is turned away whole: no cooking makes it safe. Local food code decides.
          </Caution>
        </div>
      )}
    </fieldset>
  )
}
