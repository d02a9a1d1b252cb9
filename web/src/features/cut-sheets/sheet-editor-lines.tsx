import type { FieldPath, PathValue } from 'react-hook-form'
import { CheckField, Choice, LinesField, SelectField, TextField } from '../../ui/fields.tsx'
import type { OutputFields, SheetFields } from './sheet-fields.ts'

type FieldOf = <Path extends FieldPath<SheetFields>>(
  path: Path,
) => {
  value: PathValue<SheetFields, Path>
  onChange: (value: PathValue<SheetFields, Path>) => void
  error: string | undefined
}

interface StepEditorProps {
  field: FieldOf
  /** Place of the step in the sheet. */
  at: number
  tubs: readonly OutputFields[]
}

export function StepEditor({ field, at, tubs }: StepEditorProps) {
  const path = `body.steps.${at}` as const
  const weighed = field(`${path}.outputs`)
  return (
    <>
      <div className="fields">
        <TextField label="Step" {...field(`${path}.title`)} />
        <TextField label="Usual minutes" inputMode="decimal" {...field(`${path}.minutes`)} />
        <TextField label="Knife" {...field(`${path}.knife`)} />
      </div>
      <LinesField label="What to do" {...field(`${path}.text`)} />
      <div className="fields">
        <TextField label="Check" {...field(`${path}.check`)} />
        <TextField label="Caution" {...field(`${path}.caution`)} />
      </div>
      <fieldset className="checks">
        <legend>Weighed at this step</legend>
        {tubs.map(({ key, name }) => (
          <CheckField
            key={key}
            label={name}
            value={weighed.value.includes(key)}
            onChange={(isWeighed) => {
              const others = weighed.value.filter((other) => other !== key)
              weighed.onChange(isWeighed ? [...others, key] : others)
            }}
          />
        ))}
      </fieldset>
    </>
  )
}

const roles = [
  { value: 'main', label: 'Main' },
  { value: 'coproduct', label: 'Co-product' },
  { value: 'byproduct', label: 'By-product' },
  { value: 'waste', label: 'Waste' },
] as const

export function OutputEditor({ field, at }: { field: FieldOf; at: number }) {
  const path = `body.outputs.${at}` as const
  const role = field(`${path}.role`)
  const low = field(`${path}.lowPct`)
  const isPortioned = field(`${path}.isPortioned`)
  return (
    <>
      <div className="fields">
        <TextField label="Tub" {...field(`${path}.name`)} />
        <SelectField label="Role" {...role} onChange={(value) => role.onChange(value as OutputFields['role'])} options={roles} />
        <TextField label="Dish or destination" {...field(`${path}.destination`)} />
        {role.value === 'main' && (
          <TextField
            label="Kind of main"
            {...field(`${path}.kind`)}
            hint="mains of one kind can take each other’s place; empty: all alike"
          />
        )}
      </div>
      <div className="fields fields-narrow">
        <TextField label="Low, %" inputMode="decimal" {...low} error={low.error ?? field(path).error} />
        <TextField label="Typical, %" inputMode="decimal" {...field(`${path}.typicalPct`)} />
        <TextField label="High, %" inputMode="decimal" {...field(`${path}.highPct`)} />
      </div>
      <Choice
        label="Portions"
        value={isPortioned.value ? 'by-weight' : 'none'}
        onChange={(value) => isPortioned.onChange(value === 'by-weight')}
        options={[
          { value: 'none', label: 'Not portioned' },
          { value: 'by-weight', label: 'Portioned to a weight' },
        ]}
      />
      {isPortioned.value && (
        <div className="fields fields-narrow">
          <TextField label="Target, g" inputMode="decimal" {...field(`${path}.portion.targetGrams`)} />
          <TextField label="Tolerance, g" inputMode="decimal" {...field(`${path}.portion.toleranceGrams`)} />
          <TextField label="Pieces a portion" inputMode="numeric" {...field(`${path}.portion.pieces`)} />
          <TextField label="Thickness, cm" inputMode="decimal" {...field(`${path}.portion.thicknessCm`)} />
        </div>
      )}
    </>
  )
}
