import type { ComparisonBody } from '@fleam/contract/compare'
import type { MakeOrBuy } from '@fleam/core/compare/make-or-buy'
import { quoteOf } from '@fleam/core/compare/portion-case'
import { usableGramsOf } from '@fleam/core/compare/ready-cut'
import { weekInPacks } from '@fleam/core/compare/week-in-packs'
import { memo } from 'react'
import { counted } from '../../ui/counted.ts'
import { DataTable } from '../../ui/data-table.tsx'
import { Choice } from '../../ui/fields.tsx'
import { useUnits } from '../../ui/units.ts'
import type { OpenPortion } from './open-portion.ts'
import { shortName } from './words.ts'

interface Props {
  open: OpenPortion
  inputs: Readonly<Record<string, number>>
  result: MakeOrBuy
  quoteId: string
  body: ComparisonBody
  onChange: (change: Partial<ComparisonBody>) => void
}

/** The week as it is ordered: whole items, whole packs, least orders, and what is left over. */
export const WeekPart = memo(function WeekPart({ open, inputs, result, quoteId, body, onChange }: Props) {
  const { money } = useUnits()
  const read = (name: string, least = 0) => Math.max(least, inputs[name] ?? 0)
  const servedPerPiece = usableGramsOf(quoteOf(open.portionCase, inputs, quoteId)) / read('portionGrams', 0.1)
  const week = weekInPacks({
    portions: read('portionsPerWeek'),
    leftOver: body.leftOver,
    make: {
      perPack: read('makePerPack', 1),
      minimum: read('makeMinimum'),
      portionsPerUnit: result.make.portionsPerItem * open.portionCase.portionShare,
      costPerUnit: result.make.netCost * open.portionCase.portionShare,
    },
    buy: {
      perPack: read('buyPerPack', 1),
      minimum: read('buyMinimum'),
      portionsPerUnit: servedPerPiece,
      costPerUnit: result.buy.costPerPortion * servedPerPiece,
    },
  })
  const rows = [
    { name: `${shortName(open.item.name)}, cut here`, unit: 'item', ...week.make },
    { name: 'Ready-cut', unit: 'piece', ...week.buy },
  ]
  return (
    <section className="sheet">
      <div className="result-method">
        <h2>A week as it is ordered</h2>
        <Choice
          label="What is left over"
          value={body.leftOver}
          onChange={(leftOver) => onChange({ leftOver })}
          options={[
            { value: 'used', label: 'The rest is used' },
            { value: 'lost', label: 'The rest is lost' },
          ]}
        />
      </div>
      <DataTable
        label="A week in whole orders"
        className="week-table"
        columns={[
          { id: 'name', heading: `For ${counted(read('portionsPerWeek'), 'portion')}`, kind: 'head', cell: (row) => row.name },
          { id: 'needed', heading: 'needed', cell: (row) => row.needed.toFixed(1) },
          { id: 'ordered', heading: 'ordered', cell: (row) => `${row.ordered} ${row.ordered === 1 ? row.unit : `${row.unit}s`}` },
          { id: 'left', heading: 'portions left', cell: (row) => Math.floor(row.portionsLeft) },
          { id: 'cost', heading: 'the week pays', cell: (row) => money(row.cost) },
        ]}
        rows={rows}
        rowKey={(row) => row.name}
      />
      <p>
        In whole orders cutting {week.saving >= 0 ? 'saves' : 'loses'}{' '}
        <b className={week.saving >= 0 ? 'good' : 'hot'}>{money(Math.abs(week.saving))}</b> a week, {money(Math.abs(week.saving) * 52)} a
        year. Pack sizes and least orders are under “Try it out”, How many.
      </p>
    </section>
  )
})
