import type { FollowOn } from '@fleam/contract/follow-ons'
import type { FollowOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import { weighedOut } from '@fleam/core/follow-ons/weighed-out'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { useSession } from '../../api/queries.ts'
import { momentText } from '../../ui/days.ts'
import { roleWords } from '../../ui/roles.ts'
import { useUnits } from '../../ui/units.ts'
import { Keypad } from '../runs/bench/keypad.tsx'
import { play } from '../runs/bench/sounds.ts'
import { useBenchKeys } from '../runs/bench/use-bench-keys.ts'
import { useLatestReading } from '../scales/latest-reading.ts'
import { ScaleBar, useScaleWords } from '../scales/scale-bar.tsx'
import { useWeighingHands } from '../scales/use-weighing-hands.ts'
import { amountText, tenthsTyped } from '../walk-in/amounts.ts'
import { expectedText, type Outcome, outcomesOf } from './outcomes.ts'
import { useFollowOnLines } from './use-follow-on.ts'

interface FollowOnBenchProps {
  followOn: FollowOn
  sheet: FollowOnSheet
  book: Parameters<typeof outcomesOf>[2]
}

const nothing = () => undefined
const unitKey = { g: undefined, ml: 'l', piece: '' } as const

/** The bench of a follow-on: what came out goes into its tubs, by the pad, the keyboard or the scale; a line is taken back by another. */
export function FollowOnBench({ followOn, sheet, book }: FollowOnBenchProps) {
  const units = useUnits()
  const { person } = useSession()
  const put = useFollowOnLines(followOn)
  const outcomes = outcomesOf(followOn, sheet, book)
  const { totals, between, standing } = weighedOut(followOn.body.weighings)
  const [chosen, setChosen] = useState(outcomes[0]?.key ?? '')
  const [entry, setEntry] = useState('')
  const [refusal, setRefusal] = useState<string>()
  const [said, setSaid] = useState('')
  const selected = outcomes.find(({ key }) => key === chosen) ?? outcomes[0]
  const last = standing.findLast((line) => line.by === person.name) ?? standing.at(-1)
  const hands = useWeighingHands({
    // millilitres and pieces are not weighed
    tub: selected?.unit === 'g' ? { id: selected.key } : undefined,
    inTubTenths: totals.get(selected?.output ?? '')?.tenths ?? 0,
    onTaken: ({ tenths }) => selected && store(selected, tenths),
  })

  function store(into: Outcome, tenths: number) {
    put({ kind: 'weighed', output: into.output, tenths, reversesId: null })
    setEntry('')
    setRefusal(undefined)
    play('taken')
    setSaid(`${amountText(units, into.unit, tenths)} ${into.output === null ? 'on the way' : `into ${into.name}`}`)
  }

  function tap(into: Outcome | undefined) {
    if (!into) return
    setChosen(into.key)
    if (entry.trim() === '') {
      if (into.unit !== 'g' || (hands.isHandsFree && into.key !== selected?.key)) return
      const weighed = hands.take()
      return weighed ? store(into, weighed.tenths) : hands.onceSteady((later) => store(into, later.tenths))
    }
    const tenths = tenthsTyped(units, into.unit, entry)
    if (tenths) return store(into, tenths)
    setRefusal(
      into.unit === 'g' ? 'That is no weight.' : into.unit === 'ml' ? 'That is no volume: litres, or 500 ml.' : 'Count whole pieces.',
    )
    play('refused')
  }

  function takeBack(line = last) {
    if (!line) return
    put({ kind: 'weighed', output: line.output ?? null, tenths: line.tenths, reversesId: line.id })
    setSaid(`Took back ${textOf(line)}`)
  }

  function type(next: string) {
    setRefusal(undefined)
    setEntry(next.slice(0, 40))
  }

  const textOf = ({ output, tenths }: { output?: string | null | undefined; tenths: number }) =>
    amountText(units, outcomes.find((one) => one.output === (output ?? null))?.unit ?? 'g', tenths)

  useBenchKeys({
    isAsleep: false,
    entry,
    onType: type,
    onPut: (place) => tap(place === undefined ? selected : outcomes[place]),
    onMove: nothing,
    onTakeBack: () => takeBack(),
    onLeave: () => type(''),
    onTub: (by) => {
      const at = outcomes.findIndex(({ key }) => key === selected?.key)
      setChosen(outcomes[(at + by + outcomes.length) % outcomes.length]?.key ?? chosen)
    },
    onStep: nothing,
    onHelp: nothing,
  })

  return (
    <section className="follow-on-bench" aria-label="Weigh what came out">
      <div className="scale sheet">
        <Entry entry={entry} unit={selected?.unit ?? 'g'} hands={hands} note={refusal ?? said} isRefused={refusal !== undefined} />
        <ScaleBar hands={hands} />
        <Keypad
          entry={entry}
          unit={unitKey[selected?.unit ?? 'g']}
          onType={type}
          onPut={() => tap(selected)}
          onTakeBack={() => takeBack()}
          canTakeBack={last !== undefined}
          takeBackOf={last && last.by !== person.name ? last.by : undefined}
          putLabel={selected?.output == null ? 'It weighs now' : `Into ${selected.name}`}
        />
      </div>
      <div className="tray">
        <div className="tray-tubs">
          {outcomes.map((outcome, index) => {
            const tenths = (outcome.output === null ? between.at(-1) : totals.get(outcome.output))?.tenths ?? 0
            return (
              <Button
                key={outcome.key}
                variant="bare"
                className={`tub role-${outcome.role} ${outcome.key === selected?.key ? 'tub-selected' : ''}`}
                aria-pressed={outcome.key === selected?.key}
                onClick={() => tap(outcome)}
              >
                <span className="tub-name">{outcome.name}</span>
                <kbd aria-label={`Alt and ${index + 1}`}>{index + 1}</kbd>
                <span className="tub-role">{outcome.output === null ? 'the whole piece, in between' : roleWords[outcome.role]}</span>
                <span className="tub-middle">
                  <span className="tub-count">{expectedText(units, outcome)}</span>
                </span>
                <span className="tub-foot">
                  <span className={tenths > 0 ? 'tub-weight' : 'tub-weight tub-none'}>{amountText(units, outcome.unit, tenths)}</span>
                </span>
              </Button>
            )
          })}
        </div>
        {standing.length > 0 && (
          <ul className="weighing-list sheet">
            {standing
              .slice(-8)
              .reverse()
              .map((line) => (
                <li key={line.id}>
                  <b>{textOf(line)}</b>
                  <span>
                    {line.output ?? 'on the way'}
                    <small>
                      {momentText(line.at)} · {line.by}
                    </small>
                  </span>
                  <Button variant="plain" onClick={() => takeBack(line)} aria-label={`Take back ${textOf(line)}`}>
                    Take back
                  </Button>
                </li>
              ))}
          </ul>
        )}
      </div>
    </section>
  )
}

interface EntryProps {
  entry: string
  unit: Outcome['unit']
  hands: ReturnType<typeof useWeighingHands>
  note: string
  isRefused: boolean
}

/** What is about to go in, large enough for two metres. */
function Entry({ entry, unit, hands, note, isRefused }: EntryProps) {
  const { weightParts, defaultUnit } = useUnits()
  const reading = useLatestReading(hands.latest)
  const scaleWords = useScaleWords(hands)
  const fromScale = unit === 'g' && entry === '' ? reading : undefined
  const typedUnit = /[a-z]/i.test(entry) ? '' : { g: defaultUnit, ml: 'l', piece: 'pieces' }[unit]
  const shown = fromScale ? weightParts(fromScale.tenths) : { figure: entry, unit: typedUnit }
  return (
    <>
      <p
        className={`readout ${entry === '' && fromScale?.state !== 'steady' ? 'readout-empty' : ''} ${shown.figure.length > 6 ? 'readout-long' : ''}`}
      >
        {shown.figure || '0'}
        <small>{shown.unit}</small>
      </p>
      <div className="readout-foot">
        <p className={isRefused ? 'readout-note refused' : 'readout-note'} role="status" aria-live="polite">
          {note}
        </p>
        {unit === 'g' && scaleWords && <small className="scale-words">{scaleWords}</small>}
      </div>
    </>
  )
}
