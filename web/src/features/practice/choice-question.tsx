import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { CheckLg, XLg } from 'react-bootstrap-icons'

interface ChoiceQuestionProps {
  choices: readonly { text: string; why?: string; isRight: boolean }[]
  onAnswer: (isRight: boolean) => void
}

/** Answers to choose from; once one is chosen, each says whether it is right and why. */
export function ChoiceQuestion({ choices, onAnswer }: ChoiceQuestionProps) {
  const [chosen, setChosen] = useState<number>()
  return (
    <ol className="choice-question">
      {choices.map(({ text, why, isRight }, at) => (
        <li key={text}>
          <Button
            variant="plain"
            className={chosen === undefined ? '' : isRight ? 'choice-right' : at === chosen ? 'choice-wrong' : 'choice-other'}
            aria-disabled={chosen !== undefined}
            onClick={() => {
              if (chosen !== undefined) return
              setChosen(at)
              onAnswer(isRight)
            }}
          >
            <span>
              {chosen !== undefined && (isRight ? <CheckLg aria-label="Right" /> : at === chosen && <XLg aria-label="Wrong" />)} {text}
            </span>
            {chosen !== undefined && why && <small>{why}</small>}
          </Button>
        </li>
      ))}
    </ol>
  )
}
