import type {
  FetchedList,
  Item,
  PriceListField,
  PriceListOpened,
  PriceListReading,
  PriceListReport,
  Supplier,
} from '@fleam/contract/prices'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import Table from 'react-bootstrap/Table'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { DateField } from '../../ui/date-field.tsx'
import { momentText, today } from '../../ui/days.ts'
import { CheckField, FileField, SelectField } from '../../ui/fields.tsx'
import { Warning, Word } from '../../ui/notes.tsx'
import { SidePanel } from '../../ui/side-panel.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'

interface Props {
  suppliers: readonly Supplier[]
  items: readonly Item[]
  /** One that was fetched from the supplier's address, to be looked at. */
  fetched: FetchedList | undefined
  onClose: () => void
}

interface Opened {
  text: string
  name: string
  /** Of this reading of this file: a repeat of its writing is recognised by it. */
  id: string
  list: PriceListOpened
  reading: PriceListReading
}

/** Lines of this list, by their numbers, that a person has left out or looked at. */
interface Marked {
  leftOut: number[]
  checked: number[]
}

const leaveOut = 'leave-out'

/** A supplier's price list: its columns matched once and remembered, what it changes shown, then all written or nothing. */
export function ImportPriceList({ suppliers, items, fetched, onClose }: Props) {
  const queryClient = useQueryClient()
  const [supplierId, setSupplierId] = useState(fetched?.supplierId ?? suppliers[0]?.id ?? '')
  const [quotedOn, setQuotedOn] = useState(today())
  const [opened, setOpened] = useState<Opened>()
  const [articles, setArticles] = useState<Record<string, string | null>>({})
  const [marked, setMarked] = useState<Marked>({ leftOut: [], checked: [] })
  const [report, setReport] = useState<PriceListReport>()
  const { change: attempt, trouble, busy } = useChange({ send: (work: () => Promise<void>) => work() })
  const open = (file: File) =>
    attempt(async () => {
      const text = decode(await file.arrayBuffer())
      setReport(undefined)
      await read(text, file.name, opened?.reading.separator ?? '')
    })
  /** Opens a text; a corrected file of the same columns keeps how the one before was read, and its matches. */
  const read = async (text: string, name: string, separator: PriceListReading['separator'], id: string = newId()) => {
    setMarked({ leftOut: [], checked: [] })
    const list = await send<PriceListOpened>('POST', '/price-lists/open', { supplierId, text: text || ' ', separator })
    const before = opened?.reading
    const isSameList = before && Object.values(before.columns).every((column) => column === null || list.header.includes(column))
    const reading = isSameList ? { ...before, separator } : list.reading
    if (!isSameList) setArticles({})
    const next = { text, name, id, list, reading }
    setOpened(next)
    if (list.isKept || isSameList || fetched) await look(next, isSameList ? articles : {}, { leftOut: [], checked: [] })
  }
  useEffect(() => {
    if (!fetched) return
    void attempt(async () => {
      const { text } = await get<{ text: string }>(`/fetched-lists/${fetched.id}`)
      await read(text, 'the fetched list', '', fetched.id)
    })
  }, [fetched])
  const ask = (of: Opened, chosen: typeof articles, lines: Marked, preview: boolean) =>
    send<PriceListReport>('POST', '/price-lists', {
      id: of.id,
      supplierId,
      text: of.text,
      reading: of.reading,
      articles: chosen,
      ...lines,
      quotedOn,
      preview,
    })
  const look = async (of: Opened, chosen: typeof articles, lines: Marked) => setReport(await ask(of, chosen, lines, true))
  const mark = (as: keyof Marked, line: number, isSo: boolean) => {
    const next = { ...marked, [as]: isSo ? [...marked[as], line] : marked[as].filter((other) => other !== line) }
    setMarked(next)
    if (opened) void attempt(() => look(opened, articles, next))
  }
  const choose = (article: string, value: string) => {
    const next = { ...articles, [article]: value === leaveOut ? null : value }
    setArticles(next)
    if (opened) void attempt(() => look(opened, next, marked))
  }
  const write = () =>
    opened &&
    attempt(async () => {
      setReport(await ask(opened, articles, marked, false))
      await queryClient.invalidateQueries()
    })

  return (
    <SidePanel title="Read in a supplier’s price list" onClose={onClose} isWide>
      <div className="stack">
        <div className="fields fields-two">
          <SelectField
            label="Supplier"
            value={supplierId}
            options={suppliers.map((one) => ({ value: one.id, label: one.name }))}
            onChange={(id) => {
              setSupplierId(id)
              setOpened(undefined)
              setReport(undefined)
            }}
          />
          <DateField label="Quoted on" value={quotedOn} onChange={setQuotedOn} />
        </div>
        {fetched && <Word>Fetched {momentText(fetched.at)}: look at what it changes, then write it.</Word>}
        {!fetched && (
          <FileField
            label="CSV file, any column order, comma, semicolon or tab"
            accept=".csv,.txt,.tsv,text/csv,text/plain"
            isDisabled={supplierId === ''}
            onChoose={open}
          />
        )}
        {suppliers.length === 0 && <Warning>Add the supplier first, under Prices.</Warning>}
        {trouble && <Warning>{trouble}</Warning>}
        {busy && <p role="status">Reading …</p>}
        {opened && !report?.written && (
          <Columns
            opened={opened}
            onChange={(reading) => {
              setReport(undefined)
              if (reading.separator === opened.reading.separator) setOpened({ ...opened, reading })
              else void attempt(() => read(opened.text, opened.name, reading.separator))
            }}
          />
        )}
        {opened && !report && (
          <Button variant="act" disabled={busy} onClick={() => attempt(() => look(opened, articles, marked))}>
            Show what it changes
          </Button>
        )}
        {report && <Report report={report} items={items} marked={marked} onChoose={choose} onMark={mark} />}
        {report && !report.written && report.problems.length === 0 && (
          <Button variant="act" disabled={busy || report.changes === 0 || report.unchecked > 0} onClick={write}>
            {report.unchecked > 0
              ? `Look at ${report.unchecked === 1 ? 'the odd price' : `the ${report.unchecked} odd prices`} first`
              : report.changes === 0
                ? 'Nothing to write'
                : `Write ${report.changes} ${report.changes === 1 ? 'quote' : 'quotes'}`}
          </Button>
        )}
      </div>
    </SidePanel>
  )
}

/** UTF-8, else the western encoding that spreadsheets still write. */
function decode(buffer: ArrayBuffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(buffer)
  } catch {
    return new TextDecoder('windows-1252').decode(buffer)
  }
}

const fieldNames: Record<PriceListField, string> = {
  article: 'Article',
  amount: 'Price',
  unit: 'Unit',
  caseCount: 'Pieces in a case',
  caseWeight: 'Weight of a case',
}

const separatorNames: Record<string, string> = { ',': 'a comma', ';': 'a semicolon', '\t': 'a tab', '|': 'a bar' }

function Columns({ opened, onChange }: { opened: Opened; onChange: (reading: PriceListReading) => void }) {
  const { list, reading } = opened
  const set = (field: PriceListField, name: string) => onChange({ ...reading, columns: { ...reading.columns, [field]: name || null } })
  const header = list.header.map((name) => ({ value: name, label: name }))
  return (
    <details open={!list.isKept}>
      <summary>{list.isKept ? 'Read as this supplier’s last list' : 'Which column holds what'}</summary>
      <div className="table-scroll">
        <Table className="figures list-sample">
          <thead>
            <tr>
              {list.header.map((name) => (
                <th key={name}>{name}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {list.sample.slice(0, 3).map((cells, row) => (
              <tr key={row}>
                {list.header.map((name, at) => (
                  <td key={name} className="words">
                    {cells[at]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
      <div className="fields fields-two">
        {(Object.keys(fieldNames) as PriceListField[]).map((field) => (
          <SelectField
            key={field}
            label={fieldNames[field]}
            value={reading.columns[field] ?? ''}
            options={field === 'article' || field === 'amount' ? header : [{ value: '', label: 'in no column' }, ...header]}
            onChange={(name) => set(field, name)}
          />
        ))}
        <SelectField
          label="Where no unit is said"
          value={reading.unit}
          options={['kg', 'lb', 'each', 'case'].map((unit) => ({ value: unit, label: unit === 'each' ? 'each' : `per ${unit}` }))}
          onChange={(unit) => onChange({ ...reading, unit: unit as PriceListReading['unit'] })}
        />
        <SelectField
          label="Decimal sign"
          value={reading.decimalSign}
          options={[
            { value: '.', label: 'a point, 12.40' },
            { value: ',', label: 'a comma, 12,40' },
          ]}
          onChange={(sign) => onChange({ ...reading, decimalSign: sign as PriceListReading['decimalSign'] })}
        />
        <SelectField
          label="Columns are parted by"
          value={reading.separator}
          options={[
            { value: '', label: `what was found: ${separatorNames[list.delimiter] ?? list.delimiter}` },
            ...Object.entries(separatorNames).map(([value, label]) => ({ value, label })),
          ]}
          onChange={(separator) => onChange({ ...reading, separator: separator as PriceListReading['separator'] })}
        />
      </div>
    </details>
  )
}

interface ReportProps {
  report: PriceListReport
  items: readonly Item[]
  marked: Marked
  onChoose: (article: string, value: string) => void
  onMark: (as: keyof Marked, line: number, isSo: boolean) => void
}

function Report({ report, items, marked, onChoose, onMark }: ReportProps) {
  const { price } = useUnits()
  const options = [
    { value: '', label: 'no item yet' },
    { value: leaveOut, label: 'leave it out, always' },
    ...items.map((item) => ({ value: item.id, label: item.name })),
  ]
  return (
    <>
      {report.written && (
        <Word isGood>
          {report.changes === 1 ? '1 quote was' : `${report.changes} quotes were`} written. The next list of this supplier is read the same
          way.
        </Word>
      )}
      {report.problems.length > 0 && (
        <Warning>
          <p>Nothing will be written until this is put right in the file, its column is chosen anew, or the line is left out:</p>
          <ul>
            {report.problems.map((problem) => (
              <li key={`${problem.line} ${problem.column} ${problem.message}`}>
                Line {problem.line}
                {problem.column && `, ${problem.column}`}: {problem.message}{' '}
                <Button variant="link" onClick={() => onMark('leftOut', problem.line, true)}>
                  Leave line {problem.line} out
                </Button>
              </li>
            ))}
          </ul>
        </Warning>
      )}
      <ul className="list-lines">
        {report.lines.map((line) => (
          <li key={line.line} className={line.item ? '' : 'list-unknown'}>
            <div>
              <small>line {line.line}</small>
              <strong>{line.article}</strong>
              {report.written ? (
                <small>{line.item?.name ?? 'left out'}</small>
              ) : (
                <Form.Select
                  className="form-select"
                  aria-label={`Item for ${line.article}`}
                  value={line.isLeftOut ? leaveOut : (line.item?.id ?? '')}
                  onChange={(event) => event.target.value && onChoose(line.article, event.target.value)}
                >
                  {options.map((option) => (
                    <option key={option.value} value={option.value}>
                      {option.label}
                    </option>
                  ))}
                </Form.Select>
              )}
              {line.isOdd && !report.written && (
                <CheckField
                  label={`${line.price ? price(line.price) : ''} against ${line.before ? price(line.before) : ''}: looked at, it is right`}
                  value={marked.checked.includes(line.line)}
                  onChange={(isRight) => onMark('checked', line.line, isRight)}
                />
              )}
              {!report.written && (
                <CheckField
                  label="leave this line out"
                  value={marked.leftOut.includes(line.line)}
                  onChange={(isOut) => onMark('leftOut', line.line, isOut)}
                />
              )}
            </div>
            <span className="list-price">
              <b>{line.price ? price(line.price) : '–'}</b>
              <small>
                {line.item === null
                  ? line.isLeftOut
                    ? 'left out'
                    : 'not written: no item'
                  : line.before === null
                    ? 'first quote'
                    : line.movePct === null
                      ? `before ${price(line.before)}`
                      : Math.abs(line.movePct) < 0.005
                        ? 'as before'
                        : `${line.movePct > 0 ? '+' : ''}${percentText(line.movePct)}, before ${price(line.before)}`}
              </small>
            </span>
          </li>
        ))}
      </ul>
    </>
  )
}
