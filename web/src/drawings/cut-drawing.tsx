import type { SheetStep } from '@fleam/contract/cut-sheets'
import type { ReactNode } from 'react'
import { type DrawnPart, type Label, leaderEnd, type Part } from './drawing.ts'
import { drawings } from './drawings.ts'

interface CutDrawingProps {
  part: Part
  /** Parts and cut lines that are lit: those of the present step. */
  shows?: readonly string[]
  steps?: readonly SheetStep[]
  /** Number of the first of the steps: 2 where setting the station comes before it. */
  firstNumber?: number
  /** Names every part and landmark, for reading and printing; otherwise only what is lit is named. */
  isLabelled?: boolean
  className?: string
  /** Says nothing that the words beside it do not say. */
  isDecoration?: boolean
  /** Draws every cut line, without its number. */
  showsAllCuts?: boolean
  /** Lies on top of it, in its own units. */
  over?: ReactNode
}

/** The animal or cut with its parts, landmarks and cut lines, numbered as the sheet's steps. */
export function CutDrawing({
  part,
  shows = [],
  steps = [],
  firstNumber = 1,
  isLabelled = false,
  className = '',
  isDecoration = false,
  showsAllCuts = false,
  over,
}: CutDrawingProps) {
  const drawing = drawings[part]
  const lit = new Set(shows)
  const numberOf = (id: string) => {
    const at = steps.findIndex((step) => step.shows?.includes(id))
    return at < 0 ? 0 : at + firstNumber
  }
  const cuts = drawing.cuts.filter((cut) => showsAllCuts || lit.has(cut.id) || (isLabelled && numberOf(cut.id) > 0))
  const named = drawing.parts.filter((one) => one.label && (isLabelled || lit.has(one.id)))
  const litNames = [...drawing.parts, ...drawing.cuts].filter((one) => lit.has(one.id)).map((one) => one.name)
  return (
    <svg
      className={`cut-drawing ${className}`}
      viewBox={`0 0 ${drawing.width} ${drawing.height}`}
      role="img"
      aria-hidden={isDecoration || undefined}
      aria-label={litNames.length > 0 ? `${drawing.title}: ${litNames.join(', ')}` : drawing.title}
    >
      {drawing.parts.map((one) => (
        <PartShape key={one.id} part={one} isLit={lit.has(one.id)} />
      ))}
      {isLabelled &&
        drawing.marks.map(({ name, at, label }) => (
          <g key={name} className="drawn-mark">
            <Leader name={name} label={label} at={at} />
            <circle cx={at[0]} cy={at[1]} r={3.5} />
            <text x={label.x} y={label.y} textAnchor={label.anchor ?? 'start'}>
              {name}
            </text>
          </g>
        ))}
      {cuts.map((cut) => (
        <g key={cut.id} data-drawn={cut.id} className={lit.has(cut.id) ? 'drawn-cut drawn-cut-lit' : 'drawn-cut'}>
          {cut.paths.map((path) => (
            <path key={path} d={path} />
          ))}
          {numberOf(cut.id) > 0 && (
            <>
              <circle cx={cut.at[0]} cy={cut.at[1]} r={10} />
              <text x={cut.at[0]} y={cut.at[1] + 4.5} textAnchor="middle">
                {numberOf(cut.id)}
              </text>
            </>
          )}
        </g>
      ))}
      {named.map(({ id, name, label }) => (
        <g key={id} className={lit.has(id) ? 'drawn-label drawn-label-lit' : 'drawn-label'}>
          {label?.pointsAt && <Leader name={name} label={label} at={label.pointsAt} />}
          <text x={label?.x} y={label?.y} textAnchor={label?.anchor ?? 'start'}>
            {name}
          </text>
        </g>
      ))}
      {isLabelled &&
        drawing.views?.map((view) => (
          <text key={view.name} className="drawn-view" x={view.x} y={drawing.height - 4} textAnchor="middle">
            {view.name}
          </text>
        ))}
      {over}
    </svg>
  )
}

function Leader({ name, label, at }: { name: string; label: Label; at: readonly [number, number] }) {
  const [x, y] = leaderEnd(name, label, at)
  return <line x1={x} y1={y} x2={at[0]} y2={at[1]} />
}

function PartShape({ part, isLit }: { part: DrawnPart; isLit: boolean }) {
  const classes = ['drawn-part', `tone-${part.tone}`, part.isHidden ? 'drawn-hidden' : '', isLit ? 'drawn-lit' : '']
  return (
    <g className={classes.join(' ')} data-drawn={part.id}>
      {part.paths.map((path) => (
        <path key={path} d={path} />
      ))}
    </g>
  )
}
