import type { CSSProperties } from 'react'
import Button from 'react-bootstrap/Button'
import { Trash } from 'react-bootstrap-icons'
import { CheckField, SelectField, TextField } from '../../ui/fields.tsx'

/** A row as it is typed; several words of one field stand side by side with blanks between. */
export type TypedRow = { id: string } & Record<string, string>

export interface Column {
  key: string
  label: string
  kind: 'text' | 'number' | 'select' | 'checks' | 'words'
  options?: readonly { value: string; label: string }[]
  /** Whether the row has this field. */
  isFor?: (row: TypedRow) => boolean
}

interface RowsProps {
  columns: readonly Column[]
  rows: readonly TypedRow[]
  onChange: (rows: TypedRow[]) => void
  /** What was refused of a field of a row. */
  refusalOf: (at: number, key: string) => string | undefined
  nameOf: (row: TypedRow) => string
  addLabel: string
  newRow: () => TypedRow
  canAdd?: boolean
  className?: string
  /** Rows that are there because something else is. */
  isFixed?: boolean
}

/** A list of rows of like fields, to be added to and taken from. */
export function Rows({
  columns: all,
  rows,
  onChange,
  refusalOf,
  nameOf,
  addLabel,
  newRow,
  canAdd = true,
  className = '',
  isFixed = false,
}: RowsProps) {
  // a field that no row has takes no room
  const columns = all.filter(({ isFor }) => !isFor || rows.some(isFor))
  const width = columns.reduce((sum, { kind }) => sum + (kind === 'checks' ? 2 : 1), 0)
  const set = (at: number, key: string, value: string) =>
    onChange(rows.map((row, index) => (index === at ? ({ ...row, [key]: value } as TypedRow) : row)))
  return (
    <>
      <div className={`day-rows ${className}`} style={{ '--columns': width } as CSSProperties}>
        {rows.map((row, at) => (
          <div key={row.id} className="day-row">
            {columns.map((column) =>
              (column.isFor?.(row) ?? true) ? (
                <RowField
                  key={column.key}
                  column={column}
                  value={row[column.key] ?? ''}
                  onChange={(value) => set(at, column.key, value)}
                  error={refusalOf(at, column.key)}
                />
              ) : (
                <span key={column.key} className="no-field" />
              ),
            )}
            {!isFixed && <LeaveOut name={nameOf(row)} onClick={() => onChange(rows.filter((_, index) => index !== at))} />}
          </div>
        ))}
      </div>
      {!isFixed && (
        <Button variant="plain" className="add-row" disabled={!canAdd} onClick={() => onChange([...rows, newRow()])}>
          {addLabel}
        </Button>
      )}
    </>
  )
}

/** Takes a row away. */
export function LeaveOut({ name, onClick }: { name: string; onClick: () => void }) {
  return (
    <Button variant="plain" className="leave-out" aria-label={`Leave ${name} out`} title="Leave out" onClick={onClick}>
      <Trash aria-hidden="true" />
    </Button>
  )
}

interface RowFieldProps {
  column: Column
  value: string
  onChange: (value: string) => void
  error: string | undefined
}

function RowField({ column: { kind, label, options = [] }, value, onChange, error }: RowFieldProps) {
  if (kind === 'select') return <SelectField label={label} value={value} onChange={onChange} options={options} error={error} />
  if (kind === 'words') return <strong className="row-words">{value}</strong>
  if (kind === 'checks') {
    const chosen = value.split(' ').filter(Boolean)
    return (
      <fieldset className="row-checks">
        <legend>{label}</legend>
        {options.map((option) => (
          <CheckField
            key={option.value}
            label={option.label}
            value={chosen.includes(option.value)}
            onChange={(on) => onChange([...chosen.filter((one) => one !== option.value), ...(on ? [option.value] : [])].join(' '))}
          />
        ))}
      </fieldset>
    )
  }
  return <TextField label={label} value={value} onChange={onChange} error={error} inputMode={kind === 'number' ? 'decimal' : 'text'} />
}
