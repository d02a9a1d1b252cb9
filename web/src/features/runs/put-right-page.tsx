import { type Run, runPutRight, type Tub, type Weighing } from '@fleam/contract/runs'
import { readLedger, totalsByTub } from '@fleam/core/runs/ledger'
import { correctingLines } from '@fleam/core/runs/put-right'
import { balanceOfRun, figuresOfRun } from '@fleam/core/runs/run-record'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import Table from 'react-bootstrap/Table'
import { Link, useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { quotesQuery, runQuery, suppliersQuery, useHasRole } from '../../api/queries.ts'
import { timeText } from '../../ui/days.ts'
import { CheckField, numberOf, SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { percentText, useUnits } from '../../ui/units.ts'
import { checkOf, WeightsQuestion, weightsOf } from './delivery-check.tsx'
import { WithRun } from './with-run.tsx'

/** A finished run and what it would be once it is put right, side by side. */
export function Page() {
  return <WithRun>{(run) => <PutRightSideBySide key={run.version} run={run} />}</WithRun>
}

interface Added {
  key: number
  tubId: string
  weight: string
}

function PutRightSideBySide({ run }: { run: Run }) {
  const isLead = useHasRole('lead')
  const { withUnit, read } = useUnits()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [tubOf, setTubOf] = useState<ReadonlyMap<string, string>>(new Map())
  const [takenBack, setTakenBack] = useState<ReadonlySet<string>>(new Set())
  const [added, setAdded] = useState<readonly Added[]>([])
  const suppliers = useQuery(suppliersQuery).data ?? []
  const quotes = useQuery(quotesQuery(run.item.id)).data
  const targeted = run.tubs.find((tub) => run.sheet.outputs.some((output) => output.key === tub.key && output.portion?.askedAtReceiving))
  const moved = [...tubOf].filter(([id]) => !takenBack.has(id)).map(([weighingId, tubId]) => ({ weighingId, tubId }))
  const filled = added.filter(({ weight }) => weight.trim() !== '')
  const { submit, field, form, refusalOf, message, busy } = useRequestForm({
    start: {
      supplierId: run.supplier?.id ?? '',
      lot: run.lot,
      billed: run.billed.entered,
      received: run.received.entered,
      pieces: String(run.pieces),
      target: targeted?.targetTenths ? `${targeted.targetTenths / 10} g` : '',
      minutes: String(run.minutes ?? 0),
      consumables: String(run.consumables),
      unaccountedReason: run.unaccountedReason ?? '',
      reason: '',
      weightsChecked: '',
    },
    schema: runPutRight,
    toRequest: (fields) => ({
      ...fields,
      version: run.version,
      supplierId: fields.supplierId || null,
      billed: withUnit(fields.billed),
      received: withUnit(fields.received),
      pieces: numberOf(fields.pieces),
      target: fields.target.trim() === '' ? null : withUnit(fields.target),
      minutes: numberOf(fields.minutes),
      consumables: numberOf(fields.consumables),
      weightsChecked: fields.weightsChecked === weightsOf({ itemId: run.item.id, ...fields }),
      moved,
      takenBack: [...takenBack],
      added: filled.map(({ tubId, weight }) => ({ tubId, weight: withUnit(weight), piece: null })),
    }),
    send: (request) => send<Run>('POST', `/runs/${run.id}/put-right`, request),
  })
  const fields = form.watch()
  const after = useMemo(() => {
    const tenthsOf = (text: string, otherwise: number) => {
      const parsed = read(text)
      return parsed.ok ? parsed.tenths : otherwise
    }
    const asked = fields.target.trim() === '' ? undefined : tenthsOf(fields.target, 0)
    const lines = correctingLines(
      run.weighings,
      {
        moved: [...tubOf].filter(([id]) => !takenBack.has(id)).map(([weighingId, tubId]) => ({ weighingId, tubId })),
        takenBack: [...takenBack],
        added: added.flatMap(({ tubId, weight }) => {
          const parsed = read(weight)
          return parsed.ok ? [{ tubId, tenths: parsed.tenths, entered: weight, piece: null }] : []
        }),
      },
      nextId(),
    )
    const quote =
      fields.supplierId === (run.supplier?.id ?? '')
        ? run.quote
        : (quotes?.find(({ supplier }) => (supplier?.id ?? '') === fields.supplierId) ?? quotes?.[0] ?? run.quote)
    return {
      ...run,
      quote,
      billed: { ...run.billed, tenths: tenthsOf(fields.billed, run.billed.tenths) },
      received: { ...run.received, tenths: tenthsOf(fields.received, run.received.tenths) },
      pieces: Number(fields.pieces) || run.pieces,
      minutes: numberOf(fields.minutes) || 0,
      consumables: numberOf(fields.consumables) || 0,
      tubs: run.tubs.map((tub) => (tub.id === targeted?.id && asked ? { ...tub, targetTenths: asked } : tub)),
      weighings: [...run.weighings, ...lines] as Weighing[],
    }
  }, [run, fields, tubOf, takenBack, added, quotes, targeted, read])
  if (run.status !== 'finished' || !isLead) {
    return (
      <main className="page">
        <section className="sheet stack">
          <h1>Run {run.number} is not put right here</h1>
          <p>{isLead ? 'Only a finished run is.' : 'A lead puts finished runs right.'}</p>
          <Link to={`/runs/${run.id}`}>Back to its result</Link>
        </section>
      </main>
    )
  }
  const isOver = balanceOfRun(after).state === 'over-limit'

  async function putRight(event: React.FormEvent) {
    event.preventDefault()
    const right = await submit()
    if (!right) return
    queryClient.setQueryData(runQuery(run.id).queryKey, right)
    for (const key of [['runs'], ['yield-book'], ['lots'], ['run-lots', run.id], ['moved-costs', run.id]])
      void queryClient.invalidateQueries({ queryKey: key })
    navigate(`/runs/${run.id}`)
  }

  return (
    <main className="page put-right">
      <Form className="sheet stack" onSubmit={putRight}>
        <h1>
          Put run {run.number} right: {run.item.name}
        </h1>
        <p className="under-title">It stays finished. What was weighed stays in its ledger, and every change is added with your name.</p>
        <div className="fields">
          <SelectField
            label="Supplier"
            {...field('supplierId')}
            options={[...suppliers.map((one) => ({ value: one.id, label: one.name })), { value: '', label: 'not noted' }]}
          />
          <TextField label="Lot" {...field('lot')} autoComplete="off" />
          <WeightField label="Billed weight" {...field('billed')} />
          <WeightField label="Received weight" {...field('received')} />
          <TextField label="Pieces, how many" {...field('pieces')} inputMode="numeric" />
          {targeted && <WeightField label={`Target weight, ${targeted.name.toLowerCase()}`} {...field('target')} />}
          <TextField label="Knife time, minutes" {...field('minutes')} inputMode="decimal" />
          <TextField label="Wrap, twine and the like" {...field('consumables')} inputMode="decimal" />
        </div>
        <WeightsQuestion {...checkOf(field('weightsChecked'), weightsOf({ itemId: run.item.id, ...fields }))} />
        <h2>Weighings</h2>
        <Lines
          run={run}
          tubOf={tubOf}
          takenBack={takenBack}
          onMove={(id, tubId) => setTubOf((known) => new Map(known).set(id, tubId))}
          onTakeBack={(id, is) => setTakenBack((known) => (is ? new Set([...known, id]) : new Set([...known].filter((one) => one !== id))))}
        />
        {added.map((line) => (
          <div key={line.key} className="fields">
            <WeightField
              label="Forgotten weighing"
              value={line.weight}
              onChange={(weight) => setAdded((lines) => lines.map((one) => (one.key === line.key ? { ...one, weight } : one)))}
              error={refusalOf(`added.${filled.indexOf(line)}.weight`)}
            />
            <SelectField
              label="Into"
              value={line.tubId}
              onChange={(tubId) => setAdded((lines) => lines.map((one) => (one.key === line.key ? { ...one, tubId } : one)))}
              options={run.tubs.map((tub) => ({ value: tub.id, label: tub.name }))}
            />
          </div>
        ))}
        <Button
          variant="plain"
          onClick={() => setAdded((lines) => [...lines, { key: Date.now(), tubId: run.tubs[0]?.id ?? '', weight: '' }])}
        >
          Add a weighing that was forgotten
        </Button>
        {isOver && <TextField label="Where the unaccounted weight went" {...field('unaccountedReason')} />}
        <TextField label="Why it is put right" {...field('reason')} hint="it stands in the audit trail with your name" />
        {refusalOf('weighings') && <Warning>{refusalOf('weighings')}</Warning>}
        {message && !refusalOf('weightsChecked') && <Warning>{message}</Warning>}
        <div className="actions">
          <Link className="btn btn-plain" to={`/runs/${run.id}`}>
            Leave it as it is
          </Link>
          <Button type="submit" variant="act" disabled={busy}>
            Put it right
          </Button>
        </div>
      </Form>
      <BeforeAndAfter run={run} after={after} />
    </main>
  )
}

function nextId() {
  let last = 0
  return () => {
    last += 1
    return `new-${last}`
  }
}

interface LinesProps {
  run: Run
  tubOf: ReadonlyMap<string, string>
  takenBack: ReadonlySet<string>
  onMove: (weighingId: string, tubId: string) => void
  onTakeBack: (weighingId: string, isTakenBack: boolean) => void
}

/** Every weighing that stands, with the tub that it is in. */
function Lines({ run, tubOf, takenBack, onMove, onTakeBack }: LinesProps) {
  const { weight } = useUnits()
  const byTub = readLedger(run.weighings).byTub
  const standing = run.weighings.filter(({ id, tubId }) => byTub.get(tubId)?.some((line) => line.id === id))
  return (
    <ul className="plain-list lines-right">
      {standing.map((line) => (
        <li key={line.id} className={takenBack.has(line.id) || (tubOf.get(line.id) ?? line.tubId) !== line.tubId ? 'is-changed' : ''}>
          <b>{weight(line.tenths)}</b>
          <Form.Select
            aria-label={`Tub of ${weight(line.tenths)}, ${timeText(line.weighedAt)}`}
            value={tubOf.get(line.id) ?? line.tubId}
            disabled={takenBack.has(line.id)}
            onChange={(event) => onMove(line.id, event.target.value)}
          >
            {run.tubs.map((tub) => (
              <option key={tub.id} value={tub.id}>
                {tub.name}
              </option>
            ))}
          </Form.Select>
          <CheckField label="take back" value={takenBack.has(line.id)} onChange={(is) => onTakeBack(line.id, is)} />
        </li>
      ))}
    </ul>
  )
}

/** The old and the new figures beside each other; what changes stands out. */
function BeforeAndAfter({ run, after }: { run: Run; after: Run }) {
  const { money, weight, perWeight } = useUnits()
  const [was, is] = [figuresOfRun(run), figuresOfRun(after)]
  const [wasIn, isIn] = [totalsByTub(run.weighings), totalsByTub(after.weighings)]
  const orNone = (value: number | null, write: (value: number) => string) => (value === null ? '–' : write(value))
  // a tub may be called like a figure
  const row = (name: string, before: string, right: string, id = name) => ({ id, name, before, right })
  const rows = [
    row('Billed', weight(run.billed.tenths), weight(after.billed.tenths)),
    row('Received', weight(run.received.tenths), weight(after.received.tenths)),
    ...run.tubs.map(({ id, name }: Tub) => row(name, weight(wasIn.get(id)?.tenths ?? 0), weight(isIn.get(id)?.tenths ?? 0), id)),
    row('On plates', percentText(was.mainPct), percentText(is.mainPct)),
    row('Usable', percentText(was.usablePct), percentText(is.usablePct)),
    row('Unaccounted', percentText(was.unaccountedPct), percentText(is.unaccountedPct)),
    row('Left to carry', money(was.netCost), money(is.netCost)),
    row('Cost by weight', orNone(was.costPerKg, perWeight), orNone(is.costPerKg, perWeight)),
    row('Cost per portion', orNone(was.costPerPortion, money), orNone(is.costPerPortion, money)),
    row('Portions', String(was.portions), String(is.portions)),
  ]
  const changes = rows.filter(({ before, right }) => before !== right).length
  return (
    <section className="sheet stack" aria-live="polite">
      <h2>Before and after</h2>
      {changes === 0 && <Word>Nothing is changed yet.</Word>}
      <Table className="before-after">
        <thead>
          <tr>
            <th scope="col">Figure</th>
            <th scope="col">As it stands</th>
            <th scope="col">Put right</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ id, name, before, right }) => (
            <tr key={id} className={before === right ? '' : 'is-changed'}>
              <th scope="row">{name}</th>
              <td>{before}</td>
              <td>{right}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="field-hint">The yield book, the lots in the walk-in and what was made of them follow when it is put right.</p>
    </section>
  )
}
