import type { Trace, TraceNode } from '@fleam/contract/follow-ons'
import { useMemo } from 'react'
import { Layer, Rectangle, ResponsiveContainer, Sankey, Tooltip } from 'recharts'
import { touched } from '../../ui/charts/chart-frame.tsx'
import { useUnits } from '../../ui/units.ts'
import { amountText } from './amounts.ts'

const colours = {
  delivery: 'var(--ink)',
  run: 'var(--main)',
  lot: 'var(--coproduct)',
  'follow-on': 'var(--byproduct)',
  taken: 'var(--act)',
}

/** From the whole to the plate, by weight or by money: every branch as wide as what went through it. */
export function TraceFlow({ trace, by }: { trace: Trace; by: 'weight' | 'money' }) {
  const units = useUnits()
  const data = useMemo(() => {
    const at = new Map(trace.nodes.map(({ id }, index) => [id, index]))
    const links = trace.flows.flatMap((flow) => {
      const [source, target] = [at.get(flow.from), at.get(flow.to)]
      // money of a delivery is what its run cost in the end
      const cost = flow.cost ?? trace.nodes.find(({ id }) => id === flow.to)?.cost ?? 0
      const value = by === 'weight' ? flow.tenths / 10_000 : cost
      return source === undefined || target === undefined || !(value > 0) ? [] : [{ source, target, value, flow, cost }]
    })
    return { nodes: trace.nodes.map((node) => ({ ...node })), links }
  }, [trace, by])
  if (data.links.length === 0) return null
  const height = Math.min(720, Math.max(220, data.nodes.length * 34))
  return (
    <figure className="trace-flow chart-drawing">
      <ResponsiveContainer width="100%" height={height}>
        <Sankey
          data={data}
          nodePadding={18}
          nodeWidth={12}
          margin={{ top: 12, right: 190, bottom: 12, left: 4 }}
          node={({ x, y, width, height: tall, payload }) => (
            <Layer>
              <Rectangle x={x} y={y} width={width} height={tall} fill={colours[(payload as unknown as TraceNode).what]} />
              <text x={x + width + 6} y={y + tall / 2} dominantBaseline="middle" className="trace-name">
                {shortened(payload.name)}
              </text>
            </Layer>
          )}
          link={{ stroke: 'var(--line)', strokeOpacity: 0.9 }}
        >
          <Tooltip
            {...touched}
            formatter={(value) => (by === 'money' ? units.money(Number(value)) : amountText(units, 'g', Number(value) * 10_000))}
          />
        </Sankey>
      </ResponsiveContainer>
    </figure>
  )
}

const shortened = (name: string) => (name.length > 30 ? `${name.slice(0, 29)}…` : name)
