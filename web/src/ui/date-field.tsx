import { format, isValid, parse } from 'date-fns'
import DatePicker from 'react-datepicker'
import 'react-datepicker/dist/react-datepicker.css'
import { Field } from './fields.tsx'

interface DateFieldProps {
  label: string
  /** A calendar day, `2026-03-14`; empty where none is chosen. */
  value: string
  onChange: (value: string) => void
  error?: string | undefined
  mayBeEmpty?: boolean
}

/** How a day is shown, and what else is understood when it is typed. Months stand as words, so that no two can be mixed up. */
const shown = 'd MMM yyyy'
const understood = [shown, 'd MMMM yyyy', 'yyyy-MM-dd', 'd.M.yyyy', 'd. M. yyyy', 'd/M/yyyy']
const stored = 'yyyy-MM-dd'

/** A calendar day, picked or typed. It has no hour and no zone: 14 March stays 14 March. */
export function DateField({ label, value, onChange, error, mayBeEmpty = false }: DateFieldProps) {
  const day = parse(value, stored, new Date())
  return (
    <Field label={label} error={error}>
      {(ids) => (
        <DatePicker
          id={ids.id}
          ariaDescribedBy={ids['aria-describedby']}
          ariaInvalid={ids['aria-invalid'] ? 'true' : undefined}
          wrapperClassName="date-field"
          className="form-control"
          selected={isValid(day) ? day : null}
          onChange={(picked: Date | null) => onChange(picked ? format(picked, stored) : '')}
          dateFormat={[...understood]}
          placeholderText="any day"
          calendarStartDay={1}
          isClearable={mayBeEmpty}
          autoComplete="off"
          showPopperArrow={false}
        />
      )}
    </Field>
  )
}
