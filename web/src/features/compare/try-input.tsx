import { gramsOf } from '@fleam/core/quantities/weight'
import { memo, startTransition, useEffect, useId, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { numberOf } from '../../ui/fields.tsx'
import { useUnits } from '../../ui/units.ts'
import type { InputKind, TryInputSpec } from './try-inputs.ts'

interface TryInputProps {
  spec: TryInputSpec
  /** The kitchen's own figure. */
  base: number
  /** What it was changed to; absent where it was not. */
  changed: number | undefined
  onChange: (name: string, value: number | undefined) => void
}

/** One input to try out: a slider for a feel, a field for the exact figure, and the way back to the kitchen's own. */
export const TryInput = memo(function TryInput({ spec, base, changed, onChange }: TryInputProps) {
  const id = useId()
  const format = useInputFormat(spec)
  const [typed, setTyped] = useState<string>()
  const [moved, setMoved] = useState<number>()
  const given = changed ?? base
  const value = moved ?? given
  const parsed = typed === undefined ? undefined : format.read(typed)
  const isChanged = value !== base
  const refusal = typed !== undefined && parsed === undefined ? format.refusal : undefined
  useEffect(() => {
    if (moved === given) setMoved(undefined)
  }, [moved, given])
  // the field follows the finger at once, the answer as soon as it can
  const set = (next: number) => {
    setMoved(next)
    startTransition(() => onChange(spec.name, next === base ? undefined : next))
  }
  const putBack = () => {
    setMoved(undefined)
    setTyped(undefined)
    onChange(spec.name, undefined)
  }
  return (
    <div className={`try-input ${isChanged ? 'try-changed' : ''}`}>
      <label htmlFor={id}>{spec.label}</label>
      <input
        type="range"
        aria-label={`${spec.label}, slider`}
        min={spec.low}
        max={Math.max(spec.high, value)}
        step={spec.step}
        value={value}
        onChange={(event) => {
          setTyped(undefined)
          set(Number(event.target.value))
        }}
      />
      <input
        id={id}
        className="form-control"
        inputMode="decimal"
        autoComplete="off"
        aria-invalid={refusal ? true : undefined}
        aria-describedby={refusal ? `${id}-refusal` : undefined}
        value={typed ?? format.write(value)}
        onFocus={() => setTyped((known) => known ?? format.write(value))}
        // a figure that cannot be one stays to be seen, with why
        onBlur={() => !refusal && setTyped(undefined)}
        onChange={({ target }) => {
          setTyped(target.value)
          const next = format.read(target.value)
          if (next !== undefined) set(next)
        }}
      />
      <span className="try-unit">{format.unit}</span>
      {isChanged || refusal ? (
        <Button variant="bare" className="try-back" onClick={putBack} aria-label={`Put ${spec.label} back`}>
          put back {format.write(base)}
        </Button>
      ) : (
        <span />
      )}
      {refusal && (
        <p className="field-error" id={`${id}-refusal`}>
          {refusal} It still counts as {format.write(value)} {format.unit}.
        </p>
      )}
    </div>
  )
})

interface Format {
  unit: string
  write: (value: number) => string
  read: (text: string) => number | undefined
  /** What is said of a text that is no such figure. */
  refusal: string
}

/** How an input is written and read in this kitchen's units; a figure that cannot be one is read as `undefined`. */
function useInputFormat({ kind, unit, low }: TryInputSpec) {
  const { currency, defaultUnit, perUnit, perKgFrom, fromPerKg, read, grams } = useUnits()
  const anAmount = 'Type an amount of 0 or more.'
  const plain = (decimals: number) => (value: number) => String(Number(value.toFixed(decimals)))
  const notBelow0 = (text: string) => {
    const value = numberOf(text)
    return Number.isNaN(value) || value < 0 ? undefined : value
  }
  const formats: Record<InputKind, Format> = {
    money: { unit: `${currency} ${unit ?? ''}`.trim(), write: (value) => value.toFixed(2), read: notBelow0, refusal: anAmount },
    'per-weight': {
      unit: `${currency} / ${perUnit}`,
      write: (value) => fromPerKg(value).toFixed(2),
      read: (text) => {
        const value = notBelow0(text)
        return value === undefined ? undefined : perKgFrom(value)
      },
      refusal: anAmount,
    },
    grams: {
      unit: defaultUnit === 'g' ? 'g' : '',
      write: (value) => (defaultUnit === 'g' ? plain(1)(value) : grams(value)),
      read: (text) => {
        const parsed = read(text)
        return parsed.ok && parsed.tenths > 0 ? gramsOf(parsed.tenths) : undefined
      },
      refusal: 'Type a weight such as 184 g.',
    },
    percent: {
      unit: '%',
      write: plain(2),
      read: (text) => {
        const value = notBelow0(text)
        return value === undefined || value > 100 ? undefined : value
      },
      refusal: 'A share goes from 0 to 100 %.',
    },
    'percent-over': {
      unit: '%',
      write: plain(2),
      read: (text) => {
        const value = numberOf(text)
        return value > -90 && value < 900 ? value : undefined
      },
      refusal: 'Type how much over it they are, such as 1.2, or −1.2 where under.',
    },
    minutes: { unit: 'min', write: plain(2), read: notBelow0, refusal: 'Type minutes, 0 or more.' },
    count: {
      unit: '',
      write: plain(1),
      read: (text) => {
        const value = notBelow0(text)
        return value === undefined || value < low ? undefined : value
      },
      refusal: `Type a number from ${low} up.`,
    },
  }
  return formats[kind]
}
