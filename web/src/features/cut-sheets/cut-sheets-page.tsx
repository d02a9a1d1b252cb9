import type { CutSheet } from '@fleam/contract/cut-sheets'
import { useQuery } from '@tanstack/react-query'
import { Link, useSearchParams } from 'react-router'
import { cutSheetsQuery } from '../../api/queries.ts'
import { Choice, TextField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { percentText } from '../../ui/units.ts'

const animals = [
  { value: 'all', label: 'All' },
  { value: 'bird', label: 'Birds' },
  { value: 'fish', label: 'Fish' },
  { value: 'beef', label: 'Beef' },
  { value: 'lamb', label: 'Lamb' },
] as const
type AnimalChoice = (typeof animals)[number]['value']

/** Every way of breaking something down that the kitchen has written down. */
export function Page() {
  const sheets = useQuery(cutSheetsQuery)
  const [search, setSearch] = useSearchParams()
  const animal = (search.get('animal') ?? 'all') as AnimalChoice
  const words = search.get('words') ?? ''
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search)
    if (value) next.set(name, value)
    else next.delete(name)
    setSearch(next, { replace: true })
  }
  const shown = (sheets.data ?? []).filter((sheet) => (animal === 'all' || sheet.body.animal === animal) && holdsWords(sheet, words))
  return (
    <main className="page">
      <section className="sheet">
        <h1>Cut sheets</h1>
        <div className="sheet-filters">
          <Choice label="Animal" value={animal} onChange={(value) => set('animal', value === 'all' ? '' : value)} options={animals} />
          <TextField
            label="Name, dish or cut"
            value={words}
            onChange={(value) => set('words', value)}
            placeholder="confit, supremes, steaks …"
          />
        </div>
        {sheets.isPending && <Loading what="cut sheets" />}
        {sheets.error && <Failed error={sheets.error} retry={sheets.refetch} />}
        {sheets.data && shown.length === 0 && (
          <Empty title="No cut sheet fits.">
            <button type="button" className="btn btn-plain" onClick={() => setSearch({})}>
              Show all
            </button>
          </Empty>
        )}
        <div className="sheet-tiles">
          {shown.map((sheet) => (
            <SheetTile key={sheet.id} sheet={sheet} />
          ))}
        </div>
      </section>
    </main>
  )
}

function SheetTile({ sheet: { id, body } }: { sheet: CutSheet }) {
  return (
    <Link className="sheet-tile" to={`/cut-sheets/${id}`}>
      <strong>{body.name}</strong>
      <span>{body.school}</span>
      <span className="share-bar" aria-hidden>
        {body.outputs.map((output) => (
          <i key={output.key} className={`role-${output.role}`} style={{ width: `${output.typicalPct}%` }} />
        ))}
      </span>
      <span className="sheet-tile-foot">
        <b>{percentText(mainPct(body), 0)}</b> main yield, usually
        <b>
          {body.minutes.low}–{body.minutes.high}
        </b>
        minutes
      </span>
    </Link>
  )
}

function mainPct(body: CutSheet['body']): number {
  return body.outputs.filter((output) => output.role === 'main').reduce((sum, output) => sum + output.typicalPct, 0)
}

function holdsWords({ body }: CutSheet, words: string): boolean {
  const text = [body.name, body.school, ...body.outputs.flatMap((output) => [output.name, output.destination])].join(' ').toLowerCase()
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word))
}
