import { type ReactNode, useId } from 'react'
import { useUnits } from './units.ts'

interface FieldProps {
  label: string
  error?: string | undefined
  hint?: ReactNode
  children: (ids: { id: string; 'aria-describedby'?: string; 'aria-invalid'?: true }) => ReactNode
}

/** A labelled control with what was refused of it, in words, beside it. */
export function Field({ label, error, hint, children }: FieldProps) {
  const id = useId()
  const describes = error || hint ? { 'aria-describedby': `${id}-note` } : {}
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      {children({ id, ...describes, ...(error ? { 'aria-invalid': true as const } : {}) })}
      {(error || hint) && (
        <div id={`${id}-note`} className={error ? 'field-error' : 'field-hint'} role={error ? 'alert' : undefined}>
          {error ?? hint}
        </div>
      )}
    </div>
  )
}

interface TextFieldProps {
  label: string
  value: string
  onChange: (value: string) => void
  error?: string | undefined
  hint?: ReactNode
  type?: 'text' | 'password' | 'date'
  inputMode?: 'decimal' | 'numeric' | 'text'
  autoComplete?: string
  autoFocus?: boolean
  onBlur?: () => void
  placeholder?: string
}

export function TextField({ label, value, onChange, error, hint, type = 'text', ...rest }: TextFieldProps) {
  return (
    <Field label={label} error={error} hint={hint}>
      {(ids) => (
        <input {...ids} {...rest} type={type} className="form-control" value={value} onChange={(event) => onChange(event.target.value)} />
      )}
    </Field>
  )
}

/** A weight as typed, with what Fleam reads in it below. */
export function WeightField({ hint, ...props }: Omit<TextFieldProps, 'type' | 'inputMode'>) {
  const { read, weight, weightSystem } = useUnits()
  const parsed = props.value.trim() === '' ? undefined : read(props.value)
  const example = weightSystem === 'metric' ? 'such as 2950, 2.95 kg' : 'such as 6 lb 8 oz'
  const echo = parsed === undefined ? (hint ?? example) : parsed.ok ? `= ${weight(parsed.tenths)}` : parsed.message
  return <TextField {...props} inputMode="text" autoComplete="off" hint={echo} />
}

interface SelectFieldProps {
  label: string
  value: string
  onChange: (value: string) => void
  options: readonly { value: string; label: string }[]
  error?: string | undefined
  hint?: ReactNode
}

export function SelectField({ label, value, onChange, options, error, hint }: SelectFieldProps) {
  return (
    <Field label={label} error={error} hint={hint}>
      {(ids) => (
        <select {...ids} className="form-select" value={value} onChange={(event) => onChange(event.target.value)}>
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  )
}

interface ChoiceProps<Value extends string> {
  label: string
  value: Value
  onChange: (value: Value) => void
  options: readonly { value: Value; label: string }[]
}

/** One of a few, side by side. */
export function Choice<Value extends string>({ label, value, onChange, options }: ChoiceProps<Value>) {
  const name = useId()
  return (
    <fieldset className="choice">
      <legend className="visually-hidden">{label}</legend>
      {options.map((option) => (
        <label key={option.value} className={option.value === value ? 'chosen' : ''}>
          <input
            type="radio"
            name={name}
            className="visually-hidden"
            checked={option.value === value}
            onChange={() => onChange(option.value)}
          />
          {option.label}
        </label>
      ))}
    </fieldset>
  )
}

/** Reads a number typed with either decimal sign; NaN where it is none. */
export function numberOf(text: string): number {
  const plain = text.trim().replace(',', '.')
  return /^-?\d+(\.\d+)?$/.test(plain) ? Number(plain) : Number.NaN
}

/** The same, `null` for an empty field. */
export function numberOrNull(text: string): number | null {
  return text.trim() === '' ? null : numberOf(text)
}
