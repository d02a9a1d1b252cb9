import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { CheckField } from '../../ui/fields.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { usePlan } from '../../workers/use-plan.ts'
import { CutMap } from './cut-map.tsx'
import { mapPieces, widestMiddle } from './map-pieces.ts'
import { NothingFits } from './nothing-fits.tsx'
import { PaperRule } from './paper-rule.tsx'
import { PieceForm } from './piece-form.tsx'
import { readKept } from './plan-fields.ts'
import { filletStart, isPlan, muscleStart, type PlanFields, questionOf, steak } from './plan-question.ts'
import { PlanTabs } from './plan-tabs.tsx'
import { MeasureField, usePlanUnits } from './plan-units.tsx'
import { TakeMixToBench } from './take-to-bench.tsx'
import { StripFields, TypeFields } from './wanted-fields.tsx'
import { tryProfile, waysOf } from './ways.ts'
import { Ways } from './ways-table.tsx'

/** Where to cut a tapered muscle so that the portions come out at weight. */
export function Page() {
  return <PiecePlan key="muscle" kind="muscle" kept="fleam.plan.2" start={muscleStart} />
}

/** The same for a fillet of width and thickness, with its pin-bone strip and its tail. */
export function FilletPage() {
  return <PiecePlan key="fillet" kind="fillet" kept="fleam.plan.fillet" start={filletStart} />
}

interface PiecePlanProps {
  kind: 'muscle' | 'fillet'
  kept: string
  start: PlanFields
}

function PiecePlan({ kind, kept, start }: PiecePlanProps) {
  const { grams } = useUnits()
  const { written, said } = usePlanUnits()
  const [fields, setFields] = useState<PlanFields>(() => readKept(kept, start, isPlan))
  const [edited, setEdited] = useState<{ of: string; cuts: number[] }>()
  const [locked, setLocked] = useState<number[]>([])
  const [line, setLine] = useState<number>()
  const { input, lossGrams, refusal: measureRefusal } = questionOf(fields, kind)
  const shape = input && tryProfile(input)
  const profile = shape && 'profile' in shape ? shape.profile : undefined
  const held = profile ? locked.filter((cm) => cm > 0 && cm < profile.lengthCm) : []
  const question = input && profile ? { input, heldCm: held } : undefined
  const { answer: mix, of, refusal, busy } = usePlan('planAround', question)
  const asked = JSON.stringify(question)
  const trouble = measureRefusal ?? (shape && 'refusal' in shape ? shape.refusal : refusal)
  const planned = mix?.pieces.slice(1).map((piece) => piece.fromCm) ?? []
  const isEdited = edited !== undefined && edited.of === asked
  const cuts = isEdited ? edited.cuts : planned
  const pieces = profile && mix && input ? mapPieces(profile, input, isEdited ? undefined : mix, cuts) : []

  function change(next: PlanFields) {
    setFields(next)
    localStorage.setItem(kept, JSON.stringify(next))
  }
  const edit = (next: number[]) => setEdited({ of: asked ?? '', cuts: [...next].sort((a, b) => a - b) })
  const isLocked = (cm: number | undefined) => cm !== undefined && locked.some((one) => Math.abs(one - cm) < 1e-6)

  function move(at: number, toCm: number) {
    if (!profile || isLocked(cuts[at])) return
    const low = (cuts[at - 1] ?? 0) + 0.1
    const high = (cuts[at + 1] ?? profile.lengthCm) - 0.1
    const next = [...cuts]
    next[at] = Math.min(high, Math.max(low, Math.round(toCm * 10) / 10))
    setLine(at)
    edit(next)
  }

  const chosen = line === undefined ? undefined : cuts[line]
  return (
    <main className="page plan">
      <PlanTabs />
      <section className="sheet">
        <header className="result-head">
          <div>
            <h1>Where to cut</h1>
            <p className="under-title">Drag a line, or let the plan choose. Thick end on the left.</p>
          </div>
          <div className="sheet-actions no-print">
            {(isEdited || locked.length > 0) && (
              <Button
                variant="plain"
                onClick={() => {
                  setEdited(undefined)
                  setLocked([])
                }}
              >
                Put the lines back
              </Button>
            )}
          </div>
        </header>
        {trouble && <Warning>{said(trouble)}</Warning>}
        {profile && mix && (
          <div className={busy ? 'plan-map plan-busy' : 'plan-map'}>
            <CutMap
              profile={profile}
              pieces={pieces}
              chosen={line}
              isLocked={(at) => isLocked(cuts[at])}
              onMove={move}
              onChoose={setLine}
              onRemove={(at) => edit(cuts.filter((_, index) => index !== at))}
            />
          </div>
        )}
        {profile && mix && (
          <div className="sheet-actions line-actions no-print">
            <span>
              {chosen === undefined ? 'Tap a line to hold it or take it out.' : `Line ${(line ?? 0) + 1} at ${written('cm', chosen)}`}
            </span>
            {chosen !== undefined && (
              <>
                <Button
                  variant="plain"
                  aria-pressed={isLocked(chosen)}
                  onClick={() => {
                    setEdited(undefined)
                    setLocked(isLocked(chosen) ? locked.filter((cm) => Math.abs(cm - chosen) > 1e-6) : [...locked, chosen])
                  }}
                >
                  {isLocked(chosen) ? 'Let it go' : 'Hold it here, plan the rest'}
                </Button>
                <Button
                  variant="plain"
                  onClick={() => {
                    edit(cuts.filter((_, index) => index !== line))
                    setLine(undefined)
                  }}
                >
                  Take it out
                </Button>
              </>
            )}
            <Button variant="plain" onClick={() => edit([...cuts, widestMiddle(cuts, profile.lengthCm)])}>
              Add a line
            </Button>
          </div>
        )}
        {pieces.some((piece) => piece.trouble) && (
          <Warning>
            {pieces
              .filter((piece) => piece.trouble)
              .map((piece) => `${piece.kind} at ${written('cm', piece.fromCm)}: ${said(piece.trouble ?? '')}`)
              .join('; ')}
          </Warning>
        )}
        {lossGrams > 0 && (
          <p className="field-hint">The pin-bone strip takes {grams(lossGrams)} out of it; the weights above are without it.</p>
        )}
        {mix && of && !trouble && <Ways input={of.input} ways={waysOf(of.input, mix)} />}
        {mix && input && !trouble && mix.pieces.every((piece) => piece.type === 'tips') && <NothingFits input={input} />}
        {profile && mix && !trouble && <PaperRule profile={profile} pieces={pieces} />}
        {input && mix && !trouble && <TakeMixToBench kind={kind} input={input} />}
        <Caution>
          A plan guides the knife, the scale decides: weigh each slice. Bonded meat is cooked as ground meat and labelled; local food code
          comes first.
        </Caution>
      </section>
      <section className="sheet stack no-print">
        <h2>The piece</h2>
        <PieceForm piece={fields.piece} kind={kind} onChange={(piece) => change({ ...fields, piece })} />
        {kind === 'fillet' && <StripFields fields={fields} change={change} />}
        <h2>What is wanted</h2>
        {fields.types.map((type, index) => (
          <TypeFields
            key={index}
            type={type}
            change={(next) => change({ ...fields, types: fields.types.map((other, at) => (at === index ? next : other)) })}
            remove={fields.types.length > 1 ? () => change({ ...fields, types: fields.types.filter((_, at) => at !== index) }) : undefined}
          />
        ))}
        <div className="sheet-actions">
          <Button
            variant="plain"
            onClick={() =>
              change({ ...fields, types: [...fields.types, { ...(fields.types.at(-1) ?? steak), name: 'Another', place: '' }] })
            }
          >
            Add a kind
          </Button>
          <Button
            variant="plain"
            onClick={() =>
              change({
                ...fields,
                types: [
                  {
                    ...steak,
                    name: 'Head roast',
                    target: '450',
                    from: '380',
                    to: '560',
                    thin: '60',
                    thick: '160',
                    face: '0',
                    value: '17',
                    most: '1',
                    place: 'thick-end',
                  },
                  ...fields.types,
                ],
              })
            }
          >
            Add a head roast
          </Button>
          <Button variant="plain" onClick={() => change(start)}>
            Start anew
          </Button>
        </div>
        <CheckField
          label={`Fold the tail under to make one more ${fields.types[0]?.name.toLowerCase()}`}
          value={fields.foldsTail}
          onChange={(foldsTail) => change({ ...fields, foldsTail })}
        />
        <MeasureField
          of="a kg"
          label="Tips are worth"
          value={fields.tipsValue}
          onChange={(value) => change({ ...fields, tipsValue: value })}
        />
      </section>
    </main>
  )
}
