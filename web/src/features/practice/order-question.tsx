import { shuffled } from '@fleam/core/practice/cards'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Sortable } from '../../ui/sortable.tsx'

interface OrderQuestionProps {
  steps: readonly string[]
  onAnswer: (isRight: boolean) => void
}

/** The steps of a sheet, mixed, to drag into their order. */
export function OrderQuestion({ steps, onAnswer }: OrderQuestionProps) {
  const [lines, setLines] = useState(() => shuffled(steps, Date.now()).map((step) => ({ id: step })))
  const [isDone, setDone] = useState(false)
  if (isDone) {
    return (
      <ol className="order-shown">
        {steps.map((step, at) => {
          const placed = lines.findIndex(({ id }) => id === step)
          return (
            <li key={step} className={placed === at ? 'order-right' : 'order-wrong'}>
              {step}
              {placed !== at && <small> you had it at {placed + 1}</small>}
            </li>
          )
        })}
      </ol>
    )
  }
  return (
    <>
      <Sortable
        items={lines}
        nameOf={({ id }) => id}
        onMove={(from, to) => {
          const next = [...lines]
          next.splice(to, 0, ...next.splice(from, 1))
          setLines(next)
        }}
      />
      <Button
        variant="act"
        onClick={() => {
          setDone(true)
          onAnswer(lines.every(({ id }, at) => id === steps[at]))
        }}
      >
        That is the order
      </Button>
    </>
  )
}
