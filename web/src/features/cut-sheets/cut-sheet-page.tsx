import type { CutSheet, SheetStep } from '@fleam/contract/cut-sheets'
import Button from 'react-bootstrap/Button'
import Table from 'react-bootstrap/Table'
import { Link } from 'react-router'
import { send } from '../../api/http.ts'
import { useHasRole } from '../../api/queries.ts'
import { CutDrawing } from '../../drawings/cut-drawing.tsx'
import { StepDrawing } from '../../drawings/step-drawing.tsx'
import { useHouseFigures } from '../../ui/house-figures.ts'
import { Caution, Warning } from '../../ui/notes.tsx'
import { roleWords } from '../../ui/roles.ts'
import { percentText, useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { Versions } from './versions.tsx'
import { firstNumber, WithSheet } from './with-sheet.tsx'

/** One cut sheet, to read like a page of a handbook and to print. */
export function Page() {
  return <WithSheet>{(sheet) => <Handbook sheet={sheet} />}</WithSheet>
}

function Handbook({ sheet }: { sheet: CutSheet }) {
  const { id, body, number, source, retired } = sheet
  const house = useHouseFigures()
  const isLead = useHasRole('lead')
  const mark = (isRetired: boolean) => send<CutSheet>('POST', `/cut-sheets/${id}/retire`, { retired: isRetired })
  const { change, trouble, busy } = useChange({
    send: mark,
    refresh: [['cut-sheets']],
    said: (isRetired) => `${body.name} is ${isRetired ? 'put away' : 'back in use'}.`,
    undo: (_, isRetired) => mark(!isRetired),
  })
  const { grams, weightSystem } = useUnits()
  const range = (low: number, high: number) =>
    weightSystem === 'metric' && high >= 1 ? `${low}–${high} kg` : `${grams(low * 1000)} to ${grams(high * 1000)}`

  return (
    <main className="page handbook">
      <article className="sheet">
        <header className="result-head">
          <div>
            <h1>{body.name}</h1>
            <p className="under-title">{body.school}</p>
          </div>
          <div className="sheet-actions no-print">
            <Button variant="plain" onClick={() => print()}>
              Print
            </Button>
            {body.part && (
              <Link className="btn btn-plain" to={`/cut-sheets/${id}/drawing`}>
                Drawing for the wall
              </Link>
            )}
            <a className="btn btn-plain" href={`/api/v1/cut-sheets.json?id=${id}`} download>
              As a file
            </a>
            {isLead && (
              <>
                <Link className="btn btn-plain" to={`/cut-sheets/${id}/edit?as=variant`}>
                  Make our variant
                </Link>
                <Link className="btn btn-plain" to={`/cut-sheets/${id}/edit`}>
                  Change
                </Link>
                <Button variant="plain" disabled={busy} onClick={() => change(!retired)}>
                  {retired ? 'Put it back' : 'Put it away'}
                </Button>
              </>
            )}
          </div>
        </header>
        <p className="figures-line">
          For <b>{range(body.weightKg.low, body.weightKg.high)}</b> minutes{' '}
          <b>
            {body.minutes.low}–{body.minutes.high}
          </b>
          {body.board && (
            <>
              board for <b>{body.board}</b>
            </>
          )}
          {body.restHours && (
            <>
              rest{' '}
              <b>
                {body.restHours.low}–{body.restHours.high} h
              </b>
            </>
          )}
        </p>
        {trouble && <Warning>{trouble}</Warning>}
        {retired && <Caution>Put away: it is not offered for new runs.</Caution>}
        {body.part && (
          <CutDrawing part={body.part} steps={body.steps} firstNumber={firstNumber(body)} isLabelled className="handbook-drawing" />
        )}
        <h2>Step by step</h2>
        <ol className="steps">
          {body.station.length > 0 && (
            <li>
              <h3>Set the station</h3>
              <p>{body.station.join(', ')}.</p>
            </li>
          )}
          {body.steps.map((step) => (
            <Step key={step.title} step={step} body={body} />
          ))}
        </ol>
      </article>
      <aside className="result-side">
        <section className="sheet">
          <h2>What comes off</h2>
          <p className="field-hint">Share of the weight received: low, typical, high. Starting figures; your own runs tell better.</p>
          <Table className="expected">
            <tbody>
              {body.outputs.map((output) => (
                <tr key={output.key}>
                  <th scope="row">
                    <i className={`role-dot role-${output.role}`} /> {output.name}
                    <small>
                      {roleWords[output.role]} · {output.destination}
                      {output.portion && ` · ${grams(output.portion.targetGrams)} ± ${grams(output.portion.toleranceGrams)}`}
                      {output.portion?.pieces && `, ${output.portion.pieces} pieces a plate`}
                    </small>
                  </th>
                  <td>
                    <span className="range" role="img" aria-label={`${output.lowPct} to ${output.highPct} percent`}>
                      <i
                        className={`role-${output.role}`}
                        style={{ left: `${output.lowPct}%`, width: `${Math.max(1.5, output.highPct - output.lowPct)}%` }}
                      />
                    </span>
                    <b>{percentText(output.typicalPct, 1)}</b>
                    <small>
                      {output.lowPct}–{output.highPct}
                    </small>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          {body.consumables.length > 0 && <p>Also: {body.consumables.map(consumableText).join(', ')}.</p>}
        </section>
        <section className="sheet">
          <h2>Where it can hurt someone</h2>
          <ul className="cautions">
            {body.cautions.map((caution) => (
              <li key={caution}>{house(caution)}</li>
            ))}
          </ul>
          <p className="field-hint">Common guidance. Local food code and licensed practice come first.</p>
        </section>
        <section className="sheet no-print">
          <h2>Versions</h2>
          <p className="field-hint">
            Version {number}, {source === 'catalog' ? 'from Fleam’s catalog' : 'this kitchen’s own'}. A run stays with the version it used.
          </p>
          <Versions id={id} />
        </section>
      </aside>
    </main>
  )
}

function consumableText({ name, quantity, unit, note }: CutSheet['body']['consumables'][number]): string {
  const amount = `${name} ${quantity} ${unit === 'piece' ? '' : unit}`.trim()
  return note ? `${amount} (${note})` : amount
}

function Step({ step, body }: { step: SheetStep; body: CutSheet['body'] }) {
  const house = useHouseFigures()
  const into = (step.outputs ?? []).map((key) => body.outputs.find((output) => output.key === key)?.name).filter(Boolean)
  return (
    <li>
      {body.part && <StepDrawing part={body.part} step={step} className="handbook-step" />}
      <h3>
        {step.title}
        {step.minutes && <small> about {step.minutes} min</small>}
        {step.knife && <small> {step.knife} knife</small>}
      </h3>
      <p>{step.text}</p>
      {step.check && (
        <p className="step-check">
          <strong>Check</strong> {step.check}
        </p>
      )}
      {step.caution && <p className="step-caution">{house(step.caution)}</p>}
      {step.optional && (
        <p className="step-check">
          <strong>Optional</strong> frees about {step.optional.gramsFreed} g for {step.optional.minutes} min; schools differ.
        </p>
      )}
      {into.length > 0 && <p className="step-into">Weigh: {into.join(', ')}</p>}
    </li>
  )
}
