import type { Run } from '@fleam/contract/runs'
import { totalsByTub } from '@fleam/core/runs/ledger'
import type { YieldTest } from '@fleam/core/runs/yield-test'
import { type Column, DataTable } from '../../ui/data-table.tsx'
import { roleWords } from '../../ui/roles.ts'
import { percentText, useUnits } from '../../ui/units.ts'

/** Every output with its weight, cost and cost factors. */
export function OutputCosts({ run, test }: { run: Run; test: YieldTest }) {
  const { weight, money, fromPerKg, perUnit } = useUnits()
  const totals = totalsByTub(run.weighings)
  const rows = run.tubs.map((tub, index) => ({ tub, total: totals.get(tub.id) ?? { tenths: 0, count: 0 }, cost: test.outputs[index] }))
  type Row = (typeof rows)[number]
  const bears = ({ tub, cost }: Row) => (tub.role === 'waste' ? undefined : cost)
  const portioned = ({ tub, cost }: Row) => (tub.targetTenths === null ? undefined : cost)
  const figure = (value: number | null | undefined, write: (value: number) => string) => (value == null ? '–' : write(value))
  const columns: Column<Row>[] = [
    {
      id: 'output',
      heading: 'Output',
      kind: 'head',
      cell: ({ tub }) => (
        <>
          <i className={`role-dot role-${tub.role}`} /> {tub.name} <small>{roleWords[tub.role]}</small>
        </>
      ),
    },
    { id: 'weight', heading: 'Weight', sortBy: (row) => row.total.tenths, cell: (row) => weight(row.total.tenths) },
    { id: 'share', heading: 'Share', mayHide: true, cell: (row) => percentText((row.total.tenths / run.received.tenths) * 100) },
    { id: 'pieces', heading: 'Pieces', mayHide: true, cell: (row) => row.total.count },
    {
      id: 'cost',
      heading: `Cost per ${perUnit}`,
      sortBy: (row) => bears(row)?.costPerKg,
      cell: (row) => figure(bears(row)?.costPerKg, (cost) => money(fromPerKg(cost))),
    },
    { id: 'portion', heading: 'Per portion', cell: (row) => figure(portioned(row)?.costPerPortion, money) },
    {
      id: 'factor',
      heading: `Factor, ${perUnit}`,
      mayHide: true,
      cell: (row) => figure(bears(row)?.costFactorPerKg, (factor) => factor.toFixed(3)),
    },
    {
      id: 'portion-factor',
      heading: 'Factor, portion',
      mayHide: true,
      cell: (row) => figure(portioned(row)?.costFactorPerPortion, (factor) => factor.toFixed(4)),
    },
  ]
  return <DataTable label="Cost of every output" keepAs="output-costs" columns={columns} rows={rows} rowKey={({ tub }) => tub.id} />
}
