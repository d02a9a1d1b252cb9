import { type KeyboardEvent, type ReactNode, useId } from 'react'
import Form from 'react-bootstrap/Form'
import ToggleButton from 'react-bootstrap/ToggleButton'
import ToggleButtonGroup from 'react-bootstrap/ToggleButtonGroup'
import { decimalSign } from './days.ts'
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
    <Form.Group className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      {children({ id, ...describes, ...(error ? { 'aria-invalid': true as const } : {}) })}
      {error && (
        <div id={`${id}-note`} className="field-error" role="alert">
          {error}
        </div>
      )}
      {!error && hint && (
        <Form.Text as="div" id={`${id}-note`} className="field-hint">
          {hint}
        </Form.Text>
      )}
    </Form.Group>
  )
}

interface TextFieldProps {
  label: string
  value: string
  onChange: (value: string) => void
  error?: string | undefined
  hint?: ReactNode
  type?: 'text' | 'password'
  inputMode?: 'decimal' | 'numeric' | 'text'
  autoComplete?: string
  autoFocus?: boolean
  onBlur?: () => void
  placeholder?: string
  /** The Enter key does this instead of sending the form, as where a scanner types. */
  onEnter?: () => void
}

export function TextField({ label, value, onChange, error, hint, onEnter, type = 'text', ...rest }: TextFieldProps) {
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'Enter' || !onEnter) return
    event.preventDefault()
    onEnter()
  }
  return (
    <Field label={label} error={error} hint={hint}>
      {(ids) => (
        <Form.Control
          {...ids}
          {...rest}
          type={type}
          value={value}
          onChange={(event) => onChange(event.target.value)}
          onKeyDown={onKeyDown}
        />
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
        <Form.Select {...ids} value={value} onChange={(event) => onChange(event.target.value)}>
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </Form.Select>
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
    <ToggleButtonGroup type="radio" className="choice" name={name} value={value} onChange={onChange} role="radiogroup" aria-label={label}>
      {options.map((option) => (
        <ToggleButton key={option.value} id={`${name}-${option.value}`} value={option.value} variant="choice">
          {option.label}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  )
}

interface CheckFieldProps {
  label: ReactNode
  value: boolean
  onChange: (value: boolean) => void
  error?: string | undefined
  isDisabled?: boolean
}

/** Something that is so or not. */
export function CheckField({ label, value, onChange, error, isDisabled = false }: CheckFieldProps) {
  const id = useId()
  return (
    <div>
      <Form.Check
        className="check"
        id={id}
        label={label}
        checked={value}
        disabled={isDisabled}
        onChange={(event) => onChange(event.target.checked)}
        isInvalid={error !== undefined}
      />
      {error && (
        <div className="field-error" role="alert">
          {error}
        </div>
      )}
    </div>
  )
}

interface FileFieldProps {
  label: string
  accept: string
  isDisabled?: boolean
  onChoose: (file: File) => void
}

/** A file from this tablet. The same one can be chosen again, after it was put right. */
export function FileField({ label, accept, isDisabled = false, onChoose }: FileFieldProps) {
  return (
    <Field label={label}>
      {(ids) => (
        <Form.Control
          {...ids}
          type="file"
          accept={accept}
          disabled={isDisabled}
          onClick={(event) => {
            event.currentTarget.value = ''
          }}
          onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
            const [file] = event.target.files ?? []
            if (file) onChoose(file)
          }}
        />
      )}
    </Field>
  )
}

interface LinesFieldProps {
  label: string
  value: string
  onChange: (value: string) => void
  error?: string | undefined
  rows?: number
}

/** Text of several lines. */
export function LinesField({ label, value, onChange, error, rows = 3 }: LinesFieldProps) {
  return (
    <Field label={label} error={error}>
      {(ids) => <Form.Control {...ids} as="textarea" rows={rows} value={value} onChange={(event) => onChange(event.target.value)} />}
    </Field>
  )
}

/**
 * Reads a number typed with either decimal sign; NaN where it is none. Three figures after the sign that is not the kitchen's
 * own could be thousands: that is none either, unless decimals or more thousands make it plain.
 */
export function numberOf(text: string): number {
  const typed = text.trim().replace('−', '-')
  const [sign, thousands] = decimalSign() === '.' ? ['.', ','] : [',', '.']
  const groups = new RegExp(`^-?[1-9]\\d{0,2}((?:[${thousands}]\\d{3})+)([${sign}]\\d+)?$`).exec(typed)
  if (groups && groups[1]?.length === 4 && groups[2] === undefined) return Number.NaN
  const plain = (groups ? typed.replaceAll(thousands as string, '') : typed).replace(',', '.')
  return /^-?\d+(\.\d+)?$/.test(plain) ? Number(plain) : Number.NaN
}

/** The same, `null` for an empty field. */
export function numberOrNull(text: string): number | null {
  return text.trim() === '' ? null : numberOf(text)
}
