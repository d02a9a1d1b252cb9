import type { Criterion } from '@fleam/core/practice/rubric'
import Button from 'react-bootstrap/Button'
import { Trash } from 'react-bootstrap-icons'
import { newId } from '../../api/new-id.ts'
import { numberOf, TextField } from '../../ui/fields.tsx'

interface RubricFieldsProps {
  rubric: readonly Criterion[]
  onChange: (rubric: Criterion[]) => void
}

/** What is looked at and what each counts, to change, add to and take away from. */
export function RubricFields({ rubric, onChange }: RubricFieldsProps) {
  const set = (at: number, change: Partial<Criterion>) => onChange(rubric.map((one, other) => (other === at ? { ...one, ...change } : one)))
  return (
    <fieldset className="rubric-fields">
      <legend>What is looked at, marked 0 to 4</legend>
      {rubric.map(({ key, name, weight, look }, at) => (
        <div key={key} className="rubric-line">
          <TextField label={`Criterion ${at + 1}`} value={name} onChange={(value) => set(at, { name: value })} hint={look} />
          <TextField
            label="Counts"
            value={Number.isNaN(weight) ? '' : String(weight)}
            onChange={(value) => set(at, { weight: numberOf(value) })}
            inputMode="decimal"
          />
          <Button variant="bare" aria-label={`Remove ${name}`} onClick={() => onChange(rubric.filter((_, other) => other !== at))}>
            <Trash aria-hidden />
          </Button>
        </div>
      ))}
      <Button variant="plain" onClick={() => onChange([...rubric, { key: newId(), name: '', look: '', weight: 1 }])}>
        Add a criterion
      </Button>
    </fieldset>
  )
}
