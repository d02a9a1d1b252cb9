import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { AnswerCreate, Practised } from '@fleam/contract/practice'
import { type Card, cardsOf, shuffled } from '@fleam/core/practice/cards'
import { isKnown, type Sitting, sittingOf, standingsOf } from '@fleam/core/practice/spacing'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { newId } from '../../api/new-id.ts'
import { cutSheetsQuery, useSession } from '../../api/queries.ts'
import { CutDrawing } from '../../drawings/cut-drawing.tsx'
import { counted } from '../../ui/counted.ts'
import { SelectField } from '../../ui/fields.tsx'
import { useHouseFigures } from '../../ui/house-figures.ts'
import { Empty, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { Progress } from '../../ui/progress.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import { ChoiceQuestion } from './choice-question.tsx'
import { drawnNames } from './drawn-names.ts'
import { useKept } from './kept.ts'
import { OrderQuestion } from './order-question.tsx'
import './practice.scss'
import { practisedQuery } from './queries.ts'
import { SchoolTabs } from './school-tabs.tsx'
import { TapQuestion } from './tap-question.tsx'

const limits = { most: 20, fresh: 8 }
const secondsACard = 14
const toAnswers = () => '/practice/answers'

/** Questions from the cut sheets, spaced over days: a few minutes each. */
export function Page() {
  const me = useSession().person.id
  const sheets = useQuery(cutSheetsQuery)
  const practised = useQuery(practisedQuery(me))
  const kept = useAnswers(me)
  const error = sheets.error ?? practised.error
  const isMissing = !sheets.data || !practised.data
  return (
    <main className="page">
      <SchoolTabs />
      <section className="sheet stack">
        <header className="result-head">
          <div>
            <h1>Practise</h1>
            <p className="under-title">
              Landmarks, cut lines, the order of the steps, and what to do when it goes wrong. No product needed.
            </p>
          </div>
        </header>
        {isMissing && !error && <Loading what="the questions" />}
        {isMissing && error && (
          <Failed
            error={error}
            retry={() => {
              void sheets.refetch()
              void practised.refetch()
            }}
          />
        )}
        {sheets.data && practised.data && <Practice sheets={sheets.data} practised={practised.data} kept={kept} />}
        {kept.trouble && <Warning>{kept.trouble}</Warning>}
      </section>
    </main>
  )
}

/** Answers that the server has and those that wait here, together. */
function useAnswers(personId: string) {
  const queryClient = useQueryClient()
  const take = useCallback(
    (answer: AnswerCreate) =>
      queryClient.setQueryData(practisedQuery(personId).queryKey, (known) =>
        known && !known.answers.some(({ id }) => id === answer.id) ? { ...known, answers: [...known.answers, answer] } : known,
      ),
    [queryClient, personId],
  )
  return useKept<AnswerCreate, AnswerCreate>(`fleam.answers.${personId}`, toAnswers, take)
}

interface PracticeProps {
  sheets: readonly CutSheet[]
  practised: Practised
  kept: ReturnType<typeof useAnswers>
}

function Practice({ sheets, practised, kept }: PracticeProps) {
  const me = useSession().person.id
  const [chosen, setChosen] = useRemembered(`fleam.practised-sheet.${me}`, '')
  const [asked, setAsked] = useState<Card[]>()
  const present = useMemo(() => sheets.filter(({ retired }) => !retired), [sheets])
  const cardsOfSheets = useMemo(
    () =>
      new Map(
        present.map(({ id, body }) => [id, cardsOf({ ...body, id, questions: body.questions ?? [] }, drawnNames(body.part))] as const),
      ),
    [present],
  )
  const sheet = present.find(({ id }) => id === chosen) ?? present.find(({ slug }) => slug === 'chicken-saute') ?? present[0]
  const answers = useMemo(
    () => [...practised.answers, ...kept.waiting].map(({ card, isRight, at }) => ({ card, isRight, at: Date.parse(at) })),
    [practised.answers, kept.waiting],
  )
  if (!sheet) return <Empty title="No cut sheet is here to practise." />
  const own = cardsOfSheets.get(sheet.id) ?? []
  const seen = new Set(answers.map(({ card }) => card))
  // what was ever asked comes back whichever sheet it came from; what is new comes from the chosen one
  const known = [...new Map([...cardsOfSheets.values()].flat().map((card) => [card.id, card])).values()].filter(({ id }) => seen.has(id))
  const cards = [...known, ...own.filter(({ id }) => !seen.has(id))]
  const sitting = sittingOf(cards, answers, Date.now(), limits)
  const standings = standingsOf(answers)
  const heldOf = (some: readonly Card[]) =>
    some.filter(({ id }) => {
      const standing = standings.get(id)
      return standing !== undefined && isKnown(standing)
    }).length
  if (asked) {
    return (
      <Sat
        cards={asked}
        onAnswer={(card, isRight) => kept.add({ id: newId(), card, isRight, at: new Date().toISOString() })}
        onEnd={() => setAsked(undefined)}
      />
    )
  }
  const today = sitting.due.length + sitting.fresh.length
  return (
    <>
      <div className="headlines">
        <div className="headline">
          <span>Come due</span>
          <b>{sitting.due.length}</b>
          <small>asked again just before they are forgotten</small>
        </div>
        <div className="headline">
          <span>New today</span>
          <b>{sitting.fresh.length}</b>
          <small>at most {limits.fresh} a day</small>
        </div>
        <div className="headline">
          <span>Known for a week or longer</span>
          <b>
            {heldOf(own)} <small>of {own.length}</small>
          </b>
          <small>{sheet.body.name}</small>
        </div>
      </div>
      <div className="practice-start">
        <div className="stack">
          <SelectField
            label="New questions come from"
            value={sheet.id}
            onChange={setChosen}
            options={present.map(({ id, body }) => ({
              value: id,
              label: `${body.name} (${heldOf(cardsOfSheets.get(id) ?? [])} of ${cardsOfSheets.get(id)?.length ?? 0} known)`,
            }))}
          />
          {today > 0 ? (
            <div className="actions">
              <Button variant="act" onClick={() => setAsked([...sitting.due, ...sitting.fresh])}>
                Begin: {counted(today, 'question')}, about {counted(Math.max(1, Math.round((today * secondsACard) / 60)), 'minute')}
              </Button>
            </div>
          ) : (
            <Word isGood>
              Done for today. {nextWord(sitting)} <Link to={`/cut-sheets/${sheet.id}`}>Read the sheet</Link> or choose another.
            </Word>
          )}
          {kept.waiting.length > 0 && <small>{counted(kept.waiting.length, 'answer')} kept on this tablet until the server has them</small>}
        </div>
        {sheet.body.part && <CutDrawing part={sheet.body.part} isLabelled steps={sheet.body.steps} className="practice-drawing" />}
      </div>
    </>
  )
}

function nextWord({ nextAt }: Sitting<Card>): string {
  if (nextAt === null) return ''
  return `The next one comes due on ${new Date(nextAt).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })}.`
}

interface SatProps {
  cards: readonly Card[]
  onAnswer: (card: string, isRight: boolean) => void
  onEnd: () => void
}

/** One sitting: card by card; what was wrong comes again at the end until it is right. */
function Sat({ cards, onAnswer, onEnd }: SatProps) {
  const [queue, setQueue] = useState(cards)
  const [firsts, setFirsts] = useState<ReadonlyMap<string, boolean>>(new Map())
  const [last, setLast] = useState<boolean>()
  const [turn, setTurn] = useState(0)
  const [card] = queue
  if (!card) {
    const right = [...firsts.values()].filter(Boolean).length
    return (
      <>
        <Word isGood isNews>
          {right} of {firsts.size} right at once. What was not comes back tomorrow, the rest later.
        </Word>
        <div className="actions">
          <Button variant="act" onClick={onEnd}>
            Good
          </Button>
        </div>
      </>
    )
  }
  function answer(isRight: boolean) {
    if (!card || last !== undefined) return
    setLast(isRight)
    if (firsts.has(card.id)) return
    setFirsts(new Map([...firsts, [card.id, isRight]]))
    onAnswer(card.id, isRight)
  }
  function goOn() {
    if (!card) return
    setQueue(last ? queue.slice(1) : [...queue.slice(1), card])
    setLast(undefined)
    setTurn(turn + 1)
  }
  const done = cards.length - new Set(queue.map(({ id }) => id)).size
  return (
    <div className="practice-card">
      <Progress now={done} max={cards.length} name={`${done} of ${cards.length} done`} />
      <Question key={turn} card={card} turn={turn} onAnswer={answer} />
      <div className="actions" aria-live="polite">
        {last !== undefined && (
          <>
            <b className={last ? 'answer-right' : 'answer-wrong'}>{last ? 'Right.' : 'Not that: it comes again at the end.'}</b>
            <Button variant="act" autoFocus onClick={goOn}>
              Go on
            </Button>
          </>
        )}
        <Button variant="plain" onClick={onEnd}>
          Stop here
        </Button>
      </div>
    </div>
  )
}

function Question({ card, turn, onAnswer }: { card: Card; turn: number; onAnswer: (isRight: boolean) => void }) {
  const withFigures = useHouseFigures()
  switch (card.kind) {
    case 'landmark':
      return (
        <>
          <QuestionHead sheet={card.sheet} words={`Tap the ${card.name}.`} />
          <TapQuestion card={card} onAnswer={onAnswer} />
        </>
      )
    case 'cut line':
      return (
        <>
          <QuestionHead sheet={card.sheet} words={`“${card.step}” cuts ${card.name}. Tap that line.`} />
          <TapQuestion card={card} onAnswer={onAnswer} />
        </>
      )
    case 'order':
      return (
        <>
          <QuestionHead sheet={card.sheet} words="Drag the steps into their order." />
          <OrderQuestion steps={card.steps} onAnswer={onAnswer} />
        </>
      )
    case 'caution':
      return (
        <>
          <QuestionHead sheet={card.sheet} words={`At which step? “${withFigures(card.caution)}”`} />
          <ChoiceQuestion choices={card.choices.map((text) => ({ text, isRight: card.right.includes(text) }))} onAnswer={onAnswer} />
        </>
      )
    case 'what now':
      return (
        <>
          <QuestionHead sheet={card.sheet} words={card.question.ask} />
          <ChoiceQuestion
            choices={shuffled(card.question.choices, turn + card.id.length).map(({ text, why, isRight }) => ({
              ...{ text: withFigures(text), why: withFigures(why), isRight: isRight === true },
            }))}
            onAnswer={onAnswer}
          />
        </>
      )
  }
}

function QuestionHead({ sheet, words }: { sheet: string; words: string }) {
  return (
    <header>
      <small>{sheet}</small>
      <h2>{words}</h2>
    </header>
  )
}
