import type { Run, Tub, Weighing } from '@fleam/contract/runs'
import type { TakenLoad } from '@fleam/contract/scales'
import { benchTime } from '@fleam/core/bench/bench-time'
import { portionState } from '@fleam/core/portions/portion-state'
import { formatWeight } from '@fleam/core/quantities/format-weight'
import { readLedger } from '@fleam/core/runs/ledger'
import { platedTubs } from '@fleam/core/runs/plates'
import { portionTub } from '@fleam/core/runs/run-record'
import { lazy, Suspense, useEffect, useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { newId } from '../../../api/new-id.ts'
import { useKitchen, useSession } from '../../../api/queries.ts'
import { useLive } from '../../../live/use-live.ts'
import { useHouseFigures } from '../../../ui/house-figures.ts'
import { rememberBench } from '../../../ui/last-bench.ts'
import { Caution } from '../../../ui/notes.tsx'
import { useRemembered } from '../../../ui/remembered.ts'
import { useUnits } from '../../../ui/units.ts'
import { ScaleBar } from '../../scales/scale-bar.tsx'
import { useWeighingHands } from '../../scales/use-weighing-hands.ts'
import type { ScaleWeight } from '../../scales/weighing-hands.ts'
import { useWeighing } from '../use-run.ts'
import { WithRun } from '../with-run.tsx'
import { BalancePanel } from './balance-panel.tsx'
import { ColdClock } from './cold-clock.tsx'
import { Keypad, takeBackWords } from './keypad.tsx'
import { plannedSlice, useNextSlice } from './next-slice.ts'
import { Readout } from './readout.tsx'
import { play } from './sounds.ts'
import { StepCard } from './step-card.tsx'
import { piecesDone, presentSteps, signsOfWork, stepsOf } from './steps.ts'
import { Tray } from './tray.tsx'
import { type BenchPanel, TrayActions } from './tray-actions.tsx'
import { useBenchKeys } from './use-bench-keys.ts'
import { useNow } from './use-now.ts'

const AddTub = lazy(() => import('./add-tub.tsx').then((module) => ({ default: module.AddTub })))
const NextSliceBar = lazy(() => import('./next-slice-bar.tsx').then((module) => ({ default: module.NextSliceBar })))
const PiecesPanel = lazy(() => import('./pieces-panel.tsx').then((module) => ({ default: module.PiecesPanel })))
const WeighingList = lazy(() => import('./weighing-list.tsx').then((module) => ({ default: module.WeighingList })))
const BenchKeys = lazy(() => import('./bench-keys.tsx').then((module) => ({ default: module.BenchKeys })))
const TemperaturePanel = lazy(() => import('./temperature-panel.tsx').then((module) => ({ default: module.TemperaturePanel })))
const DefectPanel = lazy(() => import('./defect-panel.tsx').then((module) => ({ default: module.DefectPanel })))
const PlatesPanel = lazy(() => import('./plates-panel.tsx').then((module) => ({ default: module.PlatesPanel })))
const EyePanel = lazy(() => import('./eye-panel.tsx').then((module) => ({ default: module.EyePanel })))
const DishesPanel = lazy(() => import('./dishes-panel.tsx').then((module) => ({ default: module.DishesPanel })))

export function Page() {
  return <WithRun>{(run) => (run.status === 'open' ? <Bench run={run} /> : <Closed run={run} />)}</WithRun>
}

function Closed({ run }: { run: Run }) {
  const who = run.finishedBy ? `${run.finishedBy.name} finished it.` : 'It was turned away at the door.'
  return (
    <main className="page">
      <section className="sheet">
        <h1>Run {run.number} is closed</h1>
        <p>{who} A lead can open it again from its result.</p>
        <Link className="btn btn-act" to={`/runs/${run.id}`}>
          See the result
        </Link>
      </section>
    </main>
  )
}

function Bench({ run }: { run: Run }) {
  const { read, weight, weightSystem } = useUnits()
  const { person } = useSession()
  const { breakMinutes } = useKitchen().settings.limits
  const house = useHouseFigures()
  const navigate = useNavigate()
  const [search, setSearch] = useSearchParams()
  const isSorting = search.get('view') === 'sort'
  const { weighIn, takeBack, movePiece, note } = useWeighing(run)
  const [entry, setEntry] = useState('')
  const [refusal, setRefusal] = useState<string>()
  const [selectedId, setSelectedId] = useState(portionTub(run.tubs)?.id ?? run.tubs[0]?.id ?? '')
  const [flash, setFlash] = useState<{ tubId: string; at: number }>()
  const [said, setSaid] = useState('')
  const [panel, setPanel] = useState<BenchPanel>(null)
  const [isMoving, setMoving] = useState(false)
  const [piece, setPiece] = useRemembered(`fleam.piece.${run.id}`, 1)
  const [hasSound, setSound] = useRemembered('fleam.sound', true)
  const [guessed, setGuessed] = useState<number>()
  const now = useNow(5000)
  useEffect(() => rememberBench(run.id), [run.id])
  const live = useLive(run.id, (weighing) => {
    if (weighing.by.id !== person.id) setFlash({ tubId: weighing.tubId, at: Date.now() })
  })

  const steps = useMemo(() => stepsOf(run), [run])
  const present = useMemo(() => presentSteps(run.events), [run.events])
  const stepAt = Math.min(present.get(person.id)?.step ?? 0, Math.max(0, steps.length - 1))
  const time = useMemo(() => benchTime(signsOfWork(run), now, breakMinutes), [run, now, breakMinutes])
  const others = [...present]
    .filter(([id, { at }]) => id !== person.id && now - new Date(at).getTime() < breakMinutes * 60_000)
    .map(([, { name, step }]) => ({ name, title: steps[step]?.title ?? '' }))
  const { totals, standing } = readLedger(run.weighings)
  // one takes back one's own; another's only where there is none of one's own
  const own = standing.findLast((line) => line.by.id === person.id)
  const last = own ?? standing.at(-1)
  const plated = platedTubs(run)
  // a piece of a plate has no target of its own: the plate has
  const tray = plated ? { ...run, tubs: run.tubs.map((tub) => (plated.tubs.includes(tub) ? { ...tub, targetTenths: null } : tub)) } : run
  const selected = tray.tubs.find((tub) => tub.id === selectedId) ?? tray.tubs[0]
  const done = piecesDone(run.events)
  const hands = useWeighingHands({
    tub: selected,
    inTubTenths: totals.get(selected?.id ?? '')?.tenths ?? 0,
    onTaken: (weighed) => storeFromScale(selected, weighed),
  })
  // sorting goes by the scale alone; without one there must be a pad all the same
  const hasPad = !isSorting || hands.state.kind === 'none' || hands.state.kind === 'lost'
  const sliced = useNextSlice(run, run.byPiece ? piece : null)

  function refuse(message: string) {
    setRefusal(message)
    if (hasSound) play('refused')
  }

  function type(next: string) {
    setRefusal(undefined)
    setEntry(next.slice(0, 40))
  }

  function goTo(step: number) {
    if (step < 0 || step >= steps.length || step === stepAt) return
    note({ kind: 'step', step })
    const [output] = steps[step]?.outputs ?? []
    const tub = run.tubs.find((one) => one.key === output)
    if (tub) setSelectedId(tub.id)
  }

  /** It was weighed as ever; what was said before is held against it. */
  async function hold(said: number, weighed: number) {
    setGuessed(undefined)
    const { tellGuess } = await import('../../practice/use-guesses.ts')
    await tellGuess(person.id, { id: newId(), said, weighed, what: run.item.name.slice(0, 60), at: new Date().toISOString() }, weight(said))
  }

  function storeFromScale(tub: Tub | undefined, { tenths, load }: ScaleWeight) {
    store(tub, { tenths, entered: formatWeight(tenths, weightSystem) }, load)
  }

  function store(tub: Tub | undefined, measured: { tenths: number; entered: string }, load: TakenLoad | null = null) {
    if (!tub) return
    if (measured.tenths > run.received.tenths) {
      refuse(`That is more than the ${weight(run.received.tenths)} received: check the figure.`)
      return
    }
    const weighingId = weighIn(tub.id, measured, run.byPiece ? piece : null, load)
    if (guessed !== undefined) void hold(guessed, measured.tenths)
    const planned = plannedSlice(sliced, tub.key)
    if (planned) note({ kind: 'slice', weighingId, ...planned })
    setEntry('')
    setRefusal(undefined)
    const ofTub = steps.findIndex((step) => tub.key !== null && step.outputs.includes(tub.key) && !step.isSkipped)
    if (ofTub > stepAt) note({ kind: 'step', step: ofTub })
    setFlash({ tubId: tub.id, at: Date.now() })
    if (hasSound) play(tub.targetTenths === null ? 'taken' : portionState(measured.tenths, tub.targetTenths, tub.toleranceTenths ?? 0))
    setSaid(`${weight(measured.tenths)} into ${tub.name}`)
  }

  function put(tub: Tub | undefined) {
    if (!tub) return
    if (isMoving) return move(tub.id)
    setSelectedId(tub.id)
    if (entry.trim() === '') {
      const isOnlyChosen = hands.isHandsFree && tub.id !== selected?.id
      if (isOnlyChosen) return
      const weighed = hands.take()
      return weighed ? storeFromScale(tub, weighed) : hands.onceSteady((later) => storeFromScale(tub, later))
    }
    const parsed = read(entry)
    if (!parsed.ok) return refuse(parsed.message)
    store(tub, parsed)
  }

  function move(tubId: string, line: Weighing | undefined = last) {
    setMoving(false)
    if (!line || line.tubId === tubId) return
    movePiece(line, { tubId, piece: line.piece })
    setFlash({ tubId, at: Date.now() })
    setSaid(`Moved ${weight(line.tenths)} to ${run.tubs.find((tub) => tub.id === tubId)?.name ?? 'its tub'}`)
  }

  function takeLastBack(line: Weighing | undefined = last) {
    if (!line) return
    takeBack(line)
    const whose = line.by.id === person.id ? '' : `${line.by.name}’s `
    setSaid(`Took back ${whose}${weight(line.tenths)} from ${run.tubs.find((tub) => tub.id === line.tubId)?.name ?? 'its tub'}`)
  }

  function moveToItem(line: Weighing, to: number) {
    movePiece(line, { tubId: line.tubId, piece: to })
    setSaid(`Moved ${weight(line.tenths)} to piece ${to}`)
  }

  function choosePiece(chosen: number) {
    setPiece(chosen)
    setSaid(`Item ${chosen} of ${run.pieces}`)
  }

  function nextItem() {
    note({ kind: 'piece-done', piece })
    const known = new Set([...done, piece])
    const next = Array.from({ length: run.pieces }, (_, index) => index + 1).find((one) => !known.has(one))
    setPiece(next ?? piece)
    setSaid(next ? `Piece ${next} of ${run.pieces}` : 'Every piece is done.')
    const first = steps.findIndex((step) => step.outputs.length > 0 && !step.isSkipped)
    if (next && first >= 0) goTo(first)
  }

  function step(by: number) {
    const at = run.tubs.findIndex((tub) => tub.id === selected?.id)
    setSelectedId(run.tubs[(at + by + run.tubs.length) % run.tubs.length]?.id ?? selectedId)
  }

  useBenchKeys({
    isAsleep: panel !== null,
    entry,
    onType: type,
    onPut: (place) => put(place === undefined ? selected : run.tubs[place]),
    onMove: (place) => run.tubs[place] && move(run.tubs[place].id),
    onTakeBack: () => takeLastBack(),
    onLeave() {
      type('')
      setMoving(false)
    },
    onTub: step,
    onStep: (by) =>
      goTo(
        by > 0
          ? steps.findIndex((one, index) => index > stepAt && !one.isSkipped)
          : steps.findLastIndex((one, index) => index < stepAt && !one.isSkipped),
      ),
    onHelp: () => setPanel('keys'),
  })

  const close = () => setPanel(null)
  return (
    <main className={isSorting ? 'bench bench-sorting' : 'bench'}>
      <h1 className="visually-hidden">
        Bench: run {run.number}, {run.item.name}
      </h1>
      <section className="scale sheet" aria-label="Weigh in">
        <Readout run={tray} tub={selected} entry={entry} refusal={refusal} said={said} hands={hands} />
        <ScaleBar hands={hands} />
        {hasPad && (
          <Keypad
            entry={entry}
            onType={type}
            onPut={() => put(selected)}
            onTakeBack={() => takeLastBack()}
            canTakeBack={last !== undefined}
            takeBackOf={last && last.by.id !== person.id ? last.by.name : undefined}
            putLabel={selected ? `Into ${selected.name}` : 'Put it in'}
          />
        )}
        {!hasPad && (
          <Button variant="bare" className="key key-back" disabled={!last} onClick={() => takeLastBack()}>
            {takeBackWords(last && last.by.id !== person.id ? last.by.name : undefined)}
          </Button>
        )}
      </section>
      <Tray run={tray} selectedId={selected?.id} flash={flash} onTub={put}>
        <Suspense>
          {sliced && (
            <NextSliceBar
              run={run}
              sliced={sliced}
              onDrop={() => note({ kind: 'plan-dropped' })}
              onWeight={(grams) => note({ kind: 'plan-weight', grams })}
            />
          )}
        </Suspense>
        <TrayActions
          run={run}
          last={last}
          hasPlates={plated !== undefined}
          isMoving={isMoving}
          said={guessed}
          piece={piece}
          piecesDone={done.size}
          onPiece={nextItem}
          onPanel={setPanel}
          onMoveStart={() => setMoving(!isMoving)}
          onMoveTo={(tubId) => move(tubId)}
        />
      </Tray>
      {!isSorting &&
        (steps.length > 0 ? (
          <StepCard
            run={run}
            steps={steps}
            at={stepAt}
            minutesHere={time.minutesByStep.get(stepAt) ?? 0}
            others={others}
            onMove={goTo}
            onTick={(line, ticked) => note({ kind: 'station', line, ticked })}
            onOptional={(isDone) => note({ kind: 'optional-step', step: stepAt, done: isDone })}
            onDefect={() => setPanel('defect')}
          />
        ) : (
          <Caution>{house(run.sheet.cautions[0] ?? 'Local food code and licensed practice come first.')}</Caution>
        ))}
      <BalancePanel
        run={run}
        minutes={time.minutes}
        live={live}
        cold={<ColdClock run={run} now={now} onMove={(out) => note({ kind: 'cold', out })} />}
        isSorting={isSorting}
        onSorting={() => setSearch(isSorting ? {} : { view: 'sort' }, { replace: true })}
        onFinish={() => navigate(`/runs/${run.id}/finish`)}
        onWeighings={() => setPanel('weighings')}
        onKeys={() => setPanel('keys')}
      />
      <Suspense>
        {panel === 'add-tub' && <AddTub run={run} onClose={close} onAdded={(tub) => setSelectedId(tub.id)} />}
        {panel === 'pieces' && <PiecesPanel count={run.pieces} piece={piece} piecesDone={done} onChoose={choosePiece} onClose={close} />}
        {panel === 'weighings' && (
          <WeighingList
            run={run}
            onClose={close}
            onTakeBack={takeLastBack}
            onMove={(line, tubId) => move(tubId, line)}
            onMoveToPiece={moveToItem}
          />
        )}
        {panel === 'keys' && <BenchKeys cautions={run.sheet.cautions.map(house)} hasSound={hasSound} onSound={setSound} onClose={close} />}
        {panel === 'temperature' && <TemperaturePanel run={run} onClose={close} onNote={note} />}
        {panel === 'defect' && <DefectPanel run={run} step={steps[stepAt]?.title ?? null} onClose={close} />}
        {panel === 'plates' && <PlatesPanel run={run} onClose={close} />}
        {panel === 'eye' && <EyePanel said={guessed} onSay={setGuessed} onClose={close} />}
        {panel === 'dishes' && <DishesPanel run={run} onClose={close} />}
      </Suspense>
    </main>
  )
}
