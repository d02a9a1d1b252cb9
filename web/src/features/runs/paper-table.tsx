import type { CutSheet } from '@fleam/contract/cut-sheets'
import { type ClipboardEvent, type KeyboardEvent, useRef } from 'react'
import Form from 'react-bootstrap/Form'
import Table from 'react-bootstrap/Table'
import { roleWords } from '../../ui/roles.ts'
import { useUnits } from '../../ui/units.ts'

/** Weights as typed, by output; the last cell of each is empty and waits. */
export type PaperWeights = Readonly<Record<string, readonly string[]>>

interface PaperTableProps {
  outputs: CutSheet['body']['outputs']
  value: PaperWeights
  onChange: (value: PaperWeights) => void
}

/**
 * What stands on the paper, a row for each output: Enter or Tab goes to the next weight, arrows up and down to the next output,
 * and several weights pasted at once go into as many cells.
 */
export function PaperTable({ outputs, value, onChange }: PaperTableProps) {
  const { read, weight } = useUnits()
  const cells = useRef(new Map<string, HTMLInputElement>())
  const at = (row: number, column: number) => {
    const key = outputs[row]?.key
    if (key === undefined) return
    const last = rowOf(value, key).length - 1
    // a cell that was just made is there after the next rendering
    setTimeout(() => cells.current.get(`${key} ${Math.min(column, last)}`)?.focus())
  }
  const change = (key: string, column: number, texts: readonly string[]) => {
    const row = [...rowOf(value, key)]
    row.splice(column, 1, ...texts)
    onChange({ ...value, [key]: row.filter((text, index) => text.trim() !== '' || index === row.length - 1) })
  }
  function onKeyDown(event: KeyboardEvent<HTMLElement>, text: string, row: number, column: number) {
    const isLast = column === rowOf(value, outputs[row]?.key ?? '').length - 1
    const isEmpty = text.trim() === ''
    if (event.key === 'Enter') {
      event.preventDefault()
      if (isLast && isEmpty) at(row + 1, 0)
      else at(row, column + 1)
    }
    if (event.key === 'ArrowDown') at(row + 1, column)
    if (event.key === 'ArrowUp') at(row - 1, column)
  }
  function onPaste(event: ClipboardEvent<HTMLElement>, key: string, column: number) {
    const texts = event.clipboardData
      .getData('text')
      .split(/[\t\r\n;]+| {1,4}(?=\d)/)
      .map((text) => text.trim())
    const filled = texts.filter((text) => text !== '')
    if (filled.length < 2) return
    event.preventDefault()
    change(key, column, filled)
  }
  return (
    <div className="paper-table">
      <Table>
        <thead>
          <tr>
            <th scope="col">Output</th>
            <th scope="col">Weights, one after the other</th>
            <th scope="col">Together</th>
          </tr>
        </thead>
        <tbody>
          {outputs.map(({ key, name, role }, row) => {
            const typed = rowOf(value, key)
            const readings = typed.filter((text) => text.trim() !== '').map(read)
            const tenths = readings.reduce((sum, reading) => sum + (reading.ok ? reading.tenths : 0), 0)
            return (
              <tr key={key}>
                <th scope="row">
                  {name} <small>{roleWords[role]}</small>
                </th>
                <td className="paper-cells">
                  {typed.map((text, column) => {
                    const reading = text.trim() === '' ? undefined : read(text)
                    return (
                      <Form.Control
                        key={column}
                        ref={(cell: HTMLInputElement | null) => {
                          if (cell) cells.current.set(`${key} ${column}`, cell)
                          else cells.current.delete(`${key} ${column}`)
                        }}
                        value={text}
                        inputMode="decimal"
                        autoComplete="off"
                        aria-label={`${name}, weight ${column + 1}`}
                        isInvalid={reading !== undefined && !reading.ok}
                        title={reading && !reading.ok ? reading.message : undefined}
                        onChange={(event) => change(key, column, [event.target.value])}
                        onKeyDown={(event) => onKeyDown(event, text, row, column)}
                        onPaste={(event) => onPaste(event, key, column)}
                      />
                    )
                  })}
                </td>
                <td className="paper-sum">
                  {readings.length > 0 && (
                    <>
                      <b>{weight(tenths)}</b> <small>{readings.length}</small>
                    </>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </Table>
    </div>
  )
}

/** The cells of an output: those typed, and an empty one. */
export function rowOf(value: PaperWeights, key: string): readonly string[] {
  const row = value[key] ?? []
  return row.at(-1)?.trim() === '' ? row : [...row, '']
}
