import type { CutSheet } from '@fleam/contract/cut-sheets'
import { useQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { Link, useSearchParams } from 'react-router'
import { cutSheetsQuery, useHasRole } from '../../api/queries.ts'
import { CutDrawing } from '../../drawings/cut-drawing.tsx'
import { Choice, SelectField, TextField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { percentText } from '../../ui/units.ts'
import { ImportSheets } from './import-sheets.tsx'

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
  const isLead = useHasRole('lead')
  const words = search.get('words') ?? ''
  const sort = (search.get('sort') ?? 'name') as SheetSort
  const away = (sheets.data ?? []).filter((sheet) => sheet.retired).length
  const showsAway = search.get('away') === 'shown'
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search)
    if (value) next.set(name, value)
    else next.delete(name)
    setSearch(next, { replace: true })
  }
  const shown = (sheets.data ?? [])
    .filter((sheet) => (!sheet.retired || showsAway) && (animal === 'all' || sheet.body.animal === animal) && holdsWords(sheet, words))
    .sort((a, b) => orders[sort](a.body, b.body))
  return (
    <main className="page">
      <section className="sheet">
        <header className="result-head">
          <h1>Cut sheets</h1>
          <div className="sheet-actions">
            <Link className="btn btn-plain" to="/school">
              Practise
            </Link>
            <a className="btn btn-plain" href="/api/v1/cut-sheets.json" download>
              All as a file
            </a>
            {isLead && <ImportSheets />}
          </div>
        </header>
        <div className="sheet-filters">
          <Choice label="Animal" value={animal} onChange={(value) => set('animal', value === 'all' ? '' : value)} options={animals} />
          <TextField
            label="Name, dish or cut"
            value={words}
            onChange={(value) => set('words', value)}
            placeholder="confit, supremes, steaks …"
          />
          <SelectField
            label="In order of"
            value={sort}
            onChange={(value) => set('sort', value === 'name' ? '' : value)}
            options={[
              { value: 'name', label: 'Name' },
              { value: 'minutes', label: 'Fewest minutes' },
              { value: 'yield', label: 'Highest main yield' },
            ]}
          />
        </div>
        {sheets.isPending && <Loading what="cut sheets" />}
        {sheets.error && <Failed error={sheets.error} retry={sheets.refetch} />}
        {sheets.data && shown.length === 0 && (
          <Empty title="No cut sheet fits.">
            <Button variant="plain" onClick={() => setSearch({})}>
              Show all
            </Button>
          </Empty>
        )}
        <div className="sheet-tiles">
          {shown.map((sheet) => (
            <SheetTile key={sheet.id} sheet={sheet} />
          ))}
        </div>
        {away > 0 && (
          <Button variant="plain" onClick={() => set('away', showsAway ? '' : 'shown')}>
            {showsAway ? 'Hide what was put away' : `${away} put away: show`}
          </Button>
        )}
      </section>
    </main>
  )
}

type SheetSort = 'name' | 'minutes' | 'yield'
type Order = (a: CutSheet['body'], b: CutSheet['body']) => number
const orders: Record<SheetSort, Order> = {
  name: (a, b) => a.name.localeCompare(b.name),
  minutes: (a, b) => a.minutes.low + a.minutes.high - b.minutes.low - b.minutes.high,
  yield: (a, b) => mainPct(b) - mainPct(a),
}

function SheetTile({ sheet: { id, body, source, retired } }: { sheet: CutSheet }) {
  return (
    <Link className="sheet-tile" to={`/cut-sheets/${id}`}>
      {body.part && <CutDrawing part={body.part} shows={shownForMains(body)} className="sheet-tile-drawing" isDecoration />}
      <strong>{body.name}</strong>
      <span>
        {source === 'kitchen' && <b>our own · </b>}
        {retired && <b>put away · </b>}
        {body.school}
      </span>
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

/** What the drawing lights for a sheet: where its mains come from. */
function shownForMains({ steps, outputs }: CutSheet['body']): string[] {
  const mains = new Set(outputs.filter(({ role }) => role === 'main').map(({ key }) => key))
  return steps.filter((step) => step.outputs?.some((key) => mains.has(key))).flatMap((step) => step.shows ?? [])
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
