import type { CutSheet } from '@fleam/contract/cut-sheets'
import { a4, tiledOn, unitMmAt } from '@fleam/core/print/life-size'
import { type CSSProperties, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { PlainDrawing } from '../../drawings/cut-drawing.tsx'
import { type Drawing, hasBones, type Part } from '../../drawings/drawing.ts'
import { StepDrawing } from '../../drawings/step-drawing.tsx'
import { useDrawing } from '../../drawings/use-drawing.ts'
import { counted } from '../../ui/counted.ts'
import { CheckField, Choice, WeightField } from '../../ui/fields.tsx'
import { Empty, Loading } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { firstNumber, WithSheet } from './with-sheet.tsx'

type Size = 'page' | 'life' | 'steps'
type Layer = 'skin' | 'bones'

/** The drawing of a cut sheet for the wall: on one page, at the size of the piece itself, or step by step. */
export function Page() {
  return (
    <WithSheet>
      {(sheet) =>
        sheet.body.part ? (
          <Suspense fallback={<Loading what="the drawing" />}>
            <Wall sheet={sheet} part={sheet.body.part} />
          </Suspense>
        ) : (
          <NoDrawing name={sheet.body.name} title="No drawing">
            This sheet has no drawing. A sheet made from one of Fleam’s own keeps its drawing.
          </NoDrawing>
        )
      }
    </WithSheet>
  )
}

function NoDrawing({ name, title, children }: { name: string; title: string; children: string }) {
  return (
    <main className="page">
      <h1>{name}</h1>
      <Empty title={title}>{children}</Empty>
    </main>
  )
}

function Wall({ sheet: { id, body }, part }: { sheet: CutSheet; part: Part }) {
  const drawing = useDrawing(part)
  const { read, grams } = useUnits()
  const [size, setSize] = useState<Size>('page')
  const [layer, setLayer] = useState<Layer>('skin')
  const [isNamed, setNamed] = useState(true)
  const [typed, setTyped] = useState('')
  const parsed = typed.trim() === '' ? undefined : read(typed)
  const kg = parsed?.ok && parsed.tenths > 0 ? parsed.tenths / 10_000 : (body.weightKg.low + body.weightKg.high) / 2
  if (!drawing) {
    return (
      <NoDrawing name={body.name} title="The drawing could not be read">
        Open this page again when the server is in reach.
      </NoDrawing>
    )
  }
  return (
    <main className="page">
      <header className="result-head no-print">
        <div>
          <h1>{body.name}: drawing</h1>
          <p className="under-title">{drawing.title}</p>
        </div>
        <div className="sheet-actions">
          <Button onClick={() => print()}>Print</Button>
          <Link className="btn btn-plain" to={`/cut-sheets/${id}`}>
            The sheet
          </Link>
        </div>
      </header>
      <div className="drawing-choices no-print">
        <Choice
          label="Size"
          value={size}
          onChange={setSize}
          options={[
            { value: 'page', label: 'One page' },
            { value: 'life', label: 'Life-size' },
            { value: 'steps', label: 'Step by step' },
          ]}
        />
        {size !== 'steps' && (
          <>
            {hasBones(drawing) && (
              <Choice
                label="Layer"
                value={layer}
                onChange={setLayer}
                options={[
                  { value: 'skin', label: 'As it lies' },
                  { value: 'bones', label: 'Bones' },
                ]}
              />
            )}
            <CheckField label="With names" value={isNamed} onChange={setNamed} />
          </>
        )}
        {size === 'life' && (
          <WeightField
            label="Weight of what is drawn"
            value={typed}
            onChange={setTyped}
            hint={`${grams(Math.round(kg * 1000))}, the middle of the sheet’s`}
          />
        )}
      </div>
      {size === 'page' && (
        <section className="drawing-paper drawing-sideways">
          <h2>{body.name}</h2>
          <PlainDrawing drawing={drawing} isLabelled={isNamed} steps={body.steps} firstNumber={firstNumber(body)} layer={layer} />
        </section>
      )}
      {size === 'life' && <Tiles drawing={drawing} layer={layer} isNamed={isNamed} kg={kg} name={body.name} />}
      {size === 'steps' && (
        <section className="drawing-paper">
          <h2>{body.name}</h2>
          <ol className="drawing-steps" start={firstNumber(body)}>
            {body.steps.map((step) => (
              <li key={step.title}>
                <h3>{step.title}</h3>
                <StepDrawing part={part} step={step} />
              </li>
            ))}
          </ol>
        </section>
      )}
    </main>
  )
}

interface TilesProps {
  drawing: Drawing
  layer: Layer
  isNamed: boolean
  kg: number
  name: string
}

/** The drawing at the size of the piece, on as many sheets of A4 as that takes, to be laid edge over edge. */
function Tiles({ drawing, layer, isNamed, kg, name }: TilesProps) {
  const unit = unitMmAt(drawing.lifeSize, kg)
  const [width, height] = [drawing.width * unit, drawing.height * unit]
  const { isSideways, tiles } = tiledOn(width, height, a4)
  const columns = Math.max(...tiles.map(({ column }) => column))
  return (
    <>
      <p className="no-print">
        {Math.round(width / 10)} × {Math.round(height / 10)} cm on {counted(tiles.length, 'sheet')} of A4. Print at 100 %, and lay each over
        the next by 1 cm. Length goes with the cube root of weight: a piece of its own shape may differ by a tenth.
      </p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: many sheets side by side scroll, and keys must reach them */}
      <section className="drawing-tiles" style={{ '--columns': columns } as CSSProperties} aria-label="Sheets of paper" tabIndex={0}>
        {tiles.map((tile) => (
          <section
            key={tile.number}
            className={isSideways ? 'drawing-tile drawing-sideways' : 'drawing-tile'}
            style={{ width: `${tile.widthMm}mm`, height: `${tile.heightMm}mm` }}
            aria-label={`Sheet ${tile.number} of ${tiles.length}`}
          >
            <PlainDrawing
              drawing={drawing}
              isLabelled={isNamed}
              layer={layer}
              isDecoration
              frame={{ x: tile.leftMm / unit, y: tile.topMm / unit, width: tile.widthMm / unit, height: tile.heightMm / unit }}
            />
            <p className="drawing-ruler">
              <span style={{ width: '100mm' }} />
              100 mm if printed at 100 % · {name}, row {tile.row}, {tile.column} of {columns}
            </p>
          </section>
        ))}
      </section>
    </>
  )
}
