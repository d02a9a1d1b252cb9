import type { PlannedDay } from '@fleam/contract/day'
import { useMemo } from 'react'
import { Layer, Rectangle, ResponsiveContainer, Sankey, Tooltip } from 'recharts'
import { touched } from '../../ui/charts/chart-frame.tsx'
import { useUnits } from '../../ui/units.ts'

interface FlowNode {
  name: string
  fill: string
}

/** From the animals by their ways to what the dishes need and what is left over, each as wide as its weight. */
export function DayFlow({ planned }: { planned: PlannedDay }) {
  const { grams } = useUnits()
  const data = useMemo(() => flowData(planned), [planned])
  if (data.links.length === 0) return null
  return (
    <figure className="trace-flow chart-drawing">
      <ResponsiveContainer width="100%" height={Math.min(560, Math.max(200, data.nodes.length * 34))}>
        <Sankey
          data={data}
          nodePadding={18}
          nodeWidth={12}
          margin={{ top: 12, right: 260, bottom: 12, left: 4 }}
          node={({ x, y, width, height, payload }) => (
            <Layer>
              <Rectangle x={x} y={y} width={width} height={height} fill={(payload as unknown as FlowNode).fill} />
              <text x={x + width + 6} y={y + height / 2} dominantBaseline="middle" className="trace-name">
                {shortened(payload.name)}
              </text>
            </Layer>
          )}
          link={{ stroke: 'var(--line)', strokeOpacity: 0.9 }}
        >
          <Tooltip {...touched} formatter={(value) => grams(Math.round(Number(value)))} />
        </Sankey>
      </ResponsiveContainer>
    </figure>
  )
}

function flowData({ flow, names }: PlannedDay) {
  const nodes: FlowNode[] = []
  const at = new Map<string, number>()
  const node = (id: string, name: string, fill: string) => {
    const known = at.get(id)
    if (known !== undefined) return known
    nodes.push({ name, fill })
    at.set(id, nodes.length - 1)
    return nodes.length - 1
  }
  const links: { source: number; target: number; value: number }[] = []
  for (const { product, needed, from } of flow) {
    const target = node(`product ${product}`, names.product[product] ?? product, needed > 0 ? 'var(--main)' : 'var(--byproduct)')
    for (const { kind, id, grams } of from) {
      if (kind === 'made') {
        const of = id.slice(id.indexOf('>') + 1)
        const used = flow.find((one) => one.product === of)?.used ?? 0
        if (used > 0) links.push({ source: node(`product ${of}`, names.product[of] ?? of, 'var(--byproduct)'), target, value: used })
        continue
      }
      const source =
        kind === 'way'
          ? node(`way ${id}`, names.way[id] ?? id, 'var(--ink)')
          : kind === 'readyCut'
            ? node(`ready ${id}`, names.readyCut[id] ?? id, 'var(--act)')
            : node('walk-in', 'In the walk-in', 'var(--coproduct)')
      links.push({ source, target, value: grams })
    }
  }
  return { nodes, links }
}

const shortened = (name: string) => (name.length > 36 ? `${name.slice(0, 35)}…` : name)
