import type { ComparisonBody } from '@fleam/contract/compare'
import { memo } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { CheckField } from '../../ui/fields.tsx'
import { percentText } from '../../ui/units.ts'
import { CookedWeight } from './cooked-weight.tsx'
import type { OpenPortion } from './open-portion.ts'
import { TryInput } from './try-input.tsx'
import type { TryGroup } from './try-inputs.ts'

interface TryOutProps {
  open: OpenPortion
  base: Readonly<Record<string, number>>
  groups: readonly TryGroup[]
  body: ComparisonBody
  onChange: (change: Partial<ComparisonBody>) => void
  onInput: (name: string, value: number | undefined) => void
}

/** Every input, to be moved by a slider or typed, marked where it is not the kitchen's own, and put back. */
export const TryOut = memo(function TryOut({ open, base, groups, body, onChange, onInput }: TryOutProps) {
  const changedCount = Object.keys(body.changed).length
  return (
    <section className="sheet try-out">
      <header className="result-head">
        <div>
          <h2>Try it out</h2>
          <p className="under-title">
            {changedCount === 0
              ? 'Every figure is the kitchen’s own. Move a slider or type a figure: nothing is kept until you say so.'
              : `${changedCount} ${changedCount === 1 ? 'figure is' : 'figures are'} not the kitchen’s own.`}
          </p>
        </div>
        <div className="actions">
          <CheckField
            label="The hands are idle: their time costs nothing"
            value={body.idleHands}
            onChange={(idleHands) => onChange({ idleHands })}
          />
          {changedCount > 0 && (
            <Button variant="plain" onClick={() => onChange({ changed: {} })}>
              Put all back
            </Button>
          )}
        </div>
      </header>
      <ul className="print-only">
        {groups
          .flatMap((group) => group.inputs)
          .filter(({ name }) => name in body.changed)
          .map(({ name, label }) => (
            <li key={name}>
              {label}: {Number((body.changed[name] ?? 0).toFixed(2))} instead of {Number((base[name] ?? 0).toFixed(2))}
            </li>
          ))}
      </ul>
      <Learned open={open} />
      {groups.map((group, at) => (
        <details key={group.title} open={at === 0}>
          <summary>
            {group.title}
            {group.inputs.some(({ name }) => name in body.changed) && <em> changed</em>}
          </summary>
          <div className="try-grid">
            {group.inputs.map((spec) => (
              <TryInput key={spec.name} spec={spec} base={base[spec.name] ?? 0} changed={body.changed[spec.name]} onChange={onInput} />
            ))}
          </div>
        </details>
      ))}
      <OneOf
        legend="By-products count"
        name="byproducts"
        value={body.byproducts}
        names={byproductNames}
        onChange={(byproducts) => onChange({ byproducts })}
      />
      {open.output.portion && (
        <CheckField
          label="Portions cut here count as heavy as the log says they are, not as their target"
          value={body.asServed}
          onChange={(asServed) => onChange({ asServed })}
        />
      )}
      <CookedWeight open={open} base={base} changed={body.changed} onChange={onChange} />
      {open.hasOtherMains && (
        <OneOf legend="The other mains" name="mains" value={body.mains} names={mainsNames} onChange={(mains) => onChange({ mains })} />
      )}
    </section>
  )
})

/** What the log says of minutes falling with the count. */
function Learned({ open }: { open: OpenPortion }) {
  const { measured, perDoubling } = open.expected.learning
  if (!measured) return <p className="field-hint">Minutes per item at another count: the log has too few different counts to learn from.</p>
  return (
    <p className="field-hint">
      {perDoubling < 1
        ? `Measured in ${measured.runs} runs: doing twice as many takes ${percentText((1 - perDoubling) * 100, 0)} off the minutes of each. The knife time is that of ${open.itemsPerBatch} in a batch.`
        : `Over ${measured.runs} runs the minutes of each do not fall with the count for certain: counted as the same.`}
    </p>
  )
}

const byproductNames = { market: 'At market price', own: 'At own value', nothing: 'At nothing' }
const mainsNames = { together: 'Carry the cost together by weight', credited: 'Are credited at their value' }

interface OneOfProps<Value extends string> {
  legend: string
  name: string
  value: Value
  names: Record<Value, string>
  onChange: (value: Value) => void
}

function OneOf<Value extends string>({ legend, name, value, names, onChange }: OneOfProps<Value>) {
  return (
    <fieldset className="byproducts">
      <legend>{legend}</legend>
      {(Object.entries(names) as [Value, string][]).map(([choice, label]) => (
        <Form.Check
          key={choice}
          className="check"
          type="radio"
          id={`${name}-${choice}`}
          name={name}
          label={label}
          checked={choice === value}
          onChange={() => onChange(choice)}
        />
      ))}
    </fieldset>
  )
}
