import type { SheetStep } from '@fleam/contract/cut-sheets'
import { Fragment, type ReactNode, Suspense, useId } from 'react'
import { type Drawing, type DrawnPart, type Label, leaderEnd, type Part, type Work } from './drawing.ts'
import { type Frame, frameOfStep, heldCuts, workOf } from './framing.ts'
import { ArrowHead, Hand, Tool } from './signs.tsx'
import { useDrawing } from './use-drawing.ts'

interface DrawnProps {
  /** Parts, cut lines and work of the hands that are lit: those of the present step. */
  shows?: readonly string[]
  steps?: readonly SheetStep[]
  /** Number of the first of the steps: 2 where setting the station comes before it. */
  firstNumber?: number
  /** Names every part and landmark, for reading and printing; otherwise only what is lit is named. */
  isLabelled?: boolean
  /** Draws what is lit as a step: near to, with the hands, the blade and where it must not go. */
  isStep?: boolean
  /** The animal as it lies, or the bones under its skin. */
  layer?: 'skin' | 'bones'
  /** What of it is drawn; the whole, or for a step what it works on. */
  frame?: Frame
  className?: string
  /** Says nothing that the words beside it do not say. */
  isDecoration?: boolean
  /** Draws every cut line, without its number. */
  showsAllCuts?: boolean
  /** Lies on top of it, in its own units. */
  over?: ReactNode
}

/** The animal or cut with its parts, landmarks and cut lines, numbered as the sheet's steps. */
export function CutDrawing({ part, ...props }: DrawnProps & { part: Part }) {
  return (
    <Suspense fallback={<svg className={`cut-drawing ${props.className ?? ''}`} viewBox="0 0 520 270" aria-hidden />}>
      <LoadedDrawing part={part} {...props} />
    </Suspense>
  )
}

function LoadedDrawing({ part, ...props }: DrawnProps & { part: Part }) {
  const drawing = useDrawing(part)
  return drawing ? <PlainDrawing drawing={drawing} {...props} /> : null
}

/** The same of a drawing that is at hand. */
export function PlainDrawing({
  drawing,
  shows = [],
  steps = [],
  firstNumber = 1,
  isLabelled = false,
  isStep = false,
  layer = 'skin',
  frame,
  className = '',
  isDecoration = false,
  showsAllCuts = false,
  over,
}: DrawnProps & { drawing: Drawing }) {
  const lit = new Set(shows)
  const numberOf = (id: string) => {
    const at = steps.findIndex((step) => step.shows?.includes(id))
    return at < 0 ? 0 : at + firstNumber
  }
  const cuts = drawing.cuts.filter((cut) => showsAllCuts || lit.has(cut.id) || (isLabelled && numberOf(cut.id) > 0))
  const named = drawing.parts.filter((one) => one.label && (isLabelled || lit.has(one.id)))
  const work = workOf(drawing, isStep ? shows : [])
  const held = heldCuts(work.cuts)
  const works: readonly Work[] = [...held, ...work.handlings]
  const litNames = [...drawing.parts, ...drawing.cuts, ...drawing.handlings].filter((one) => lit.has(one.id)).map((one) => one.name)
  const limits = [...work.cuts, ...work.handlings].flatMap(({ keepOff }: Work) => (keepOff ? [keepOff.why] : []))
  const { x, y, width, height } = frame ?? (isStep ? frameOfStep(drawing, shows) : { x: 0, y: 0, ...drawing })
  const scale = width / drawing.width
  const hatch = useId()
  const says = [litNames.length > 0 ? `${drawing.title}: ${litNames.join(', ')}` : drawing.title, ...limits].join('. ')
  return (
    <svg
      className={`cut-drawing ${className}`}
      viewBox={`${x} ${y} ${width} ${height}`}
      style={isStep ? ({ '--drawn-scale': scale } as React.CSSProperties) : undefined}
      role="img"
      aria-hidden={isDecoration || undefined}
      aria-label={says}
    >
      <g className={layer === 'bones' ? 'drawn-under' : undefined}>
        {drawing.parts.map((one) => (
          <PartShape key={one.id} part={one} isLit={lit.has(one.id)} />
        ))}
      </g>
      {layer === 'bones' && (
        <g className="drawn-bones">
          {[...drawing.parts.filter(({ tone }) => tone === 'bone').flatMap(({ paths }) => paths), ...(drawing.bones ?? [])].map((path) => (
            <path key={path} d={path} />
          ))}
        </g>
      )}
      {works.some(({ keepOff }) => keepOff?.paths) && (
        <>
          <pattern id={hatch} width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width={2.6} height={7} className="drawn-hatch" />
          </pattern>
          {works.flatMap(({ keepOff }) =>
            (keepOff?.paths ?? []).map((path) => <path key={path} className="drawn-keep-off" d={path} fill={`url(#${hatch})`} />),
          )}
        </>
      )}
      {works.flatMap(({ twine = [] }) => twine.map((path) => <path key={path} className="drawn-twine" d={path} />))}
      {works.flatMap(({ hands = [] }) => hands.map((hand) => <Hand key={`${hand.at}`} {...hand} />))}
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
          {held.includes(cut) && cut.paths[0] && (
            <>
              <ArrowHead along={cut.paths[0]} />
              <Tool along={cut.paths[0]} tool={cut.tool} />
            </>
          )}
        </g>
      ))}
      {cuts
        .filter(({ id }) => !isStep && numberOf(id) > 0)
        .map(({ id, at: [x, y] }) => (
          <g key={id} className={lit.has(id) ? 'drawn-cut drawn-cut-lit' : 'drawn-cut'}>
            <circle cx={x} cy={y} r={10} />
            <text x={x} y={y + 4.5} textAnchor="middle">
              {numberOf(id)}
            </text>
          </g>
        ))}
      {works.flatMap(({ pulls = [] }) =>
        pulls.map((path) => (
          <Fragment key={path}>
            <path className="drawn-pull" d={path} />
            <ArrowHead along={path} />
          </Fragment>
        )),
      )}
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
