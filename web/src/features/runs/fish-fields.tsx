import type { FishCheck } from '@fleam/contract/bench'
import type { FishKind } from '@fleam/contract/cut-sheets'
import { fultonWeight } from '@fleam/core/bench/fulton-weight'
import { Choice, numberOrNull, SelectField, TextField } from '../../ui/fields.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'

export interface FishEntry {
  species: string
  length: string
  condition: '' | 'stiff' | 'soft'
}

/** What is sent of the fish; the first kind of the sheet where none was chosen. */
export function fishCheckOf({ species, length, condition }: FishEntry, kinds: readonly FishKind[]): FishCheck {
  return {
    species: species || (kinds[0]?.name ?? ''),
    lengthCm: numberOrNull(length),
    condition: condition === '' ? null : condition,
  }
}

interface FishFieldsProps {
  kinds: readonly FishKind[]
  value: FishEntry
  onChange: (fields: FishEntry) => void
  received: string
  pieces: number
  error: string | undefined
}

/** Kind, length and state of a fish: what it should weigh before the scale says so, and how it will cut. */
export function FishFields({ kinds, value: fields, onChange, received, pieces, error }: FishFieldsProps) {
  const { grams: exactGrams, read, weight } = useUnits()
  const grams = (value: number) => exactGrams(Math.round(value))
  const kind = kinds.find((one) => one.name === fields.species) ?? kinds[0]
  const length = numberOrNull(fields.length)
  const expected = kind && length !== null && length > 0 ? fultonWeight(length, kind) : undefined
  const onScale = received.trim() === '' ? undefined : read(received)
  const each = onScale?.ok ? onScale.tenths / pieces : undefined
  const isOdd = expected !== undefined && each !== undefined && (each < expected.lowGrams * 9 || each > expected.highGrams * 11)
  return (
    <fieldset className="stack fish-fields">
      <legend>The fish</legend>
      <div className="fields">
        <SelectField
          label="Kind"
          value={kind?.name ?? ''}
          onChange={(species) => onChange({ ...fields, species })}
          options={kinds.map((one) => ({ value: one.name, label: one.name }))}
        />
        <TextField
          label="Length of one, cm"
          value={fields.length}
          onChange={(value) => onChange({ ...fields, length: value })}
          inputMode="decimal"
          error={error}
          hint={
            expected
              ? `one should weigh about ${grams(expected.typicalGrams)}, from ${grams(expected.lowGrams)} to ${grams(expected.highGrams)}`
              : 'snout to tail; may stay empty'
          }
        />
      </div>
      <Choice
        label="To the touch"
        value={fields.condition}
        onChange={(condition) => onChange({ ...fields, condition })}
        options={[
          { value: '', label: 'Not noted' },
          { value: 'stiff', label: 'Stiff' },
          { value: 'soft', label: 'Soft' },
        ]}
      />
      {isOdd && expected && each !== undefined && (
        <Warning>
          One weighs {weight(Math.round(each))} by the scale, and a {fields.length} cm {kind?.name.toLowerCase()} should weigh{' '}
          {grams(expected.lowGrams)} to {grams(expected.highGrams)}. Is the length, the count, the kind or the scale wrong, or is it very
          thin or full of roe?
        </Warning>
      )}
      {fields.condition === 'soft' && (
        <Caution>
          A soft fish cuts rubbery and ragged. If there is time, ice it until rigor passes; if it smells or was warm, turn it away.
        </Caution>
      )}
      <Caution>
        Keep it on ice. Mackerel and tuna kinds form histamine when warm, which cooking does not take away. Served raw, local freezing rules
        for parasites come first. Fish is an allergen.
      </Caution>
    </fieldset>
  )
}
