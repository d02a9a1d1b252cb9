import { type MakeOrBuy, makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { foodCostPct, menuPriceFor } from '@fleam/core/compare/menu'
import { inputOfCase } from '@fleam/core/compare/portion-case'
import { memo, useState } from 'react'
import { numberOf, TextField } from '../../ui/fields.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import type { OpenPortion } from './open-portion.ts'
import { shortName } from './words.ts'

interface Props {
  open: OpenPortion
  inputs: Readonly<Record<string, number>>
  result: MakeOrBuy
  quoteId: string
  idleHands: boolean
  onChange: (name: string, value: number | undefined) => void
}

const usualFoodCostPct = 30

/** The portion on the menu: price and food cost, each from the other, and what a price move does to the margin. */
export const MenuPart = memo(function MenuPart({ open, inputs, result, quoteId, idleHands, onChange }: Props) {
  const { money, currency, price } = useUnits()
  const cheaper = Math.min(result.make.costPerPortion, result.buy.costPerPortion)
  const sides = inputs.sidesCost ?? 0
  const plate = cheaper + sides
  const usual = Math.ceil((menuPriceFor(plate, usualFoodCostPct) ?? 0) * 2) / 2
  const menuPrice = inputs.menuPrice || usual
  const pct = foodCostPct(plate, menuPrice)
  const move = inputs.priceMovePct ?? 0
  const movedPrice = (inputs.itemPrice ?? 0) * (1 + move / 100)
  const moved = makeOrBuy(inputOfCase(open.portionCase, { ...inputs, itemPrice: movedPrice }, quoteId, idleHands))
  const movedPlate = moved.make.costPerPortion + sides
  const makePlate = result.make.costPerPortion + sides
  const [typed, setTyped] = useState<{ field: 'price' | 'pct' | 'sides'; text: string }>()
  const shown = (field: 'price' | 'pct' | 'sides', value: string) => ({
    value: typed?.field === field ? typed.text : value,
    onBlur: () => setTyped(undefined),
  })
  const readInto = (field: 'price' | 'pct' | 'sides', text: string, take: (value: number) => void) => {
    setTyped({ field, text })
    const value = numberOf(text)
    if (value >= 0) take(value)
  }
  return (
    <section className="sheet">
      <h2>On the menu</h2>
      <div className="fields">
        <TextField
          label={`Sides and sauce, ${currency}`}
          inputMode="decimal"
          {...shown('sides', sides.toFixed(2))}
          onChange={(text) => readInto('sides', text, (value) => onChange('sidesCost', value || undefined))}
        />
        <TextField
          label={`Menu price, ${currency}, without tax`}
          inputMode="decimal"
          {...shown('price', menuPrice.toFixed(2))}
          onChange={(text) => readInto('price', text, (value) => onChange('menuPrice', value || undefined))}
        />
        <TextField
          label="Food cost, %"
          inputMode="decimal"
          {...shown('pct', pct === null ? '' : pct.toFixed(1))}
          onChange={(text) => readInto('pct', text, (value) => onChange('menuPrice', menuPriceFor(plate, value) ?? undefined))}
        />
      </div>
      <p>
        The plate costs <b>{money(plate)}</b> the cheaper way and leaves <b>{money(menuPrice - plate)}</b>.
      </p>
      <label className="move-slider">
        <span>
          If {shortName(open.item.name).toLowerCase()} moves by <b>{move > 0 ? `+${move}` : move} %</b>, to{' '}
          {price({ ...open.portionCase.price, amount: movedPrice })}
        </span>
        <input
          type="range"
          min={-40}
          max={60}
          step={1}
          value={move}
          onChange={(event) => onChange('priceMovePct', Number(event.target.value) || undefined)}
        />
      </label>
      <p>
        Cut here the plate costs {money(makePlate)} → <b>{money(movedPlate)}</b>; at {money(menuPrice)} the margin goes from{' '}
        {money(menuPrice - makePlate)} to{' '}
        <b className={move === 0 ? undefined : move > 0 ? 'hot' : 'good'}>{money(menuPrice - movedPlate)}</b>, food cost to{' '}
        {percentText(foodCostPct(movedPlate, menuPrice) ?? 0)}.{' '}
        {pct !== null && move !== 0 && `To hold ${percentText(pct)} the menu would ask ${money(menuPriceFor(movedPlate, pct) ?? 0)}.`}
      </p>
    </section>
  )
})
