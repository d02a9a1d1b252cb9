import {
  columnVisibilityFeature,
  createColumnHelper,
  createSortedRowModel,
  rowSortingFeature,
  type SortingState,
  tableFeatures,
  useTable,
} from '@tanstack/react-table'
import { type ReactNode, useMemo } from 'react'
import Button from 'react-bootstrap/Button'
import Dropdown from 'react-bootstrap/Dropdown'
import Table from 'react-bootstrap/Table'
import { useRemembered } from './remembered.ts'

export interface Column<Row> {
  /** Names the column for good: what a tablet keeps of it is kept under this. */
  id: string
  heading: ReactNode
  /** The heading in words, where it is not words itself. */
  name?: string
  cell: (row: Row) => ReactNode
  /** What rows are put in order by when the heading is tapped; without it the heading is only read. */
  sortBy?: (row: Row) => number | string | null | undefined
  /** `head`: names the row; `words`: reads from the left; otherwise a figure. */
  kind?: 'head' | 'words' | 'figure'
  /** Can be left out by the person who reads. */
  mayHide?: boolean
  /** Shown only where there is room beside the rest: not on a phone. */
  onlyWide?: boolean
}

interface DataTableProps<Row> {
  label: string
  columns: readonly Column<Row>[]
  rows: readonly Row[]
  rowKey: (row: Row) => string
  rowClass?: (row: Row) => string
  /** Where the server orders: which column stands first, and what a tap on a heading asks for. */
  order?: { sorting: { id: string; isDescending: boolean } | undefined; onSort: (id: string) => void }
  /** Columns that can be hidden are kept as chosen under this name. */
  keepAs?: string
  className?: string
  foot?: ReactNode
}

const features = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel(), columnVisibilityFeature })

/** Rows of figures: in order by a tap on a heading, columns left out as one likes, headings that stay in sight. */
export function DataTable<Row extends object>({
  label,
  columns,
  rows,
  rowKey,
  rowClass,
  order,
  keepAs,
  className = '',
  foot,
}: DataTableProps<Row>) {
  const [hidden, setHidden] = useRemembered<string[]>(`fleam.columns.${keepAs ?? 'none'}`, [])
  const definitions = useMemo(() => {
    const helper = createColumnHelper<typeof features, Row>()
    return helper.columns(
      columns.map((column) =>
        helper.accessor((row) => column.sortBy?.(row) ?? undefined, {
          id: column.id,
          enableSorting: column.sortBy !== undefined,
          sortUndefined: 'last',
          sortFn: (a, b, id) => compare(a.getValue(id), b.getValue(id)),
        }),
      ),
    )
  }, [columns])
  const data = useMemo(() => [...rows], [rows])
  const columnVisibility = useMemo(() => Object.fromEntries(hidden.map((id) => [id, false])), [hidden])
  const sorting: SortingState | undefined = order && (order.sorting ? [{ id: order.sorting.id, desc: order.sorting.isDescending }] : [])
  const table = useTable({
    features,
    columns: definitions,
    data,
    getRowId: rowKey,
    manualSorting: order !== undefined,
    enableSortingRemoval: true,
    state: { columnVisibility, ...(sorting ? { sorting } : {}) },
  })
  const columnOf = new Map(columns.map((column) => [column.id, column]))
  const shown = columns.filter(({ id }) => !hidden.includes(id))
  const mayHide = keepAs === undefined ? [] : columns.filter((column) => column.mayHide)
  return (
    <>
      {mayHide.length > 0 && (
        <Dropdown className="table-columns" autoClose="outside" align="end">
          <Dropdown.Toggle variant="plain">Columns</Dropdown.Toggle>
          <Dropdown.Menu>
            {mayHide.map(({ id, heading, name }) => {
              const isHidden = hidden.includes(id)
              return (
                <Dropdown.Item
                  as="button"
                  type="button"
                  key={id}
                  role="menuitemcheckbox"
                  aria-checked={!isHidden}
                  onClick={() => setHidden(isHidden ? hidden.filter((one) => one !== id) : [...hidden, id])}
                >
                  {isHidden ? '☐' : '☑'} {name ?? heading}
                </Dropdown.Item>
              )
            })}
          </Dropdown.Menu>
        </Dropdown>
      )}
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard */}
      <section className="table-scroll" aria-label={label} tabIndex={0}>
        <Table className={`figures ${className}`}>
          <thead>
            <tr>
              {table.getHeaderGroups().flatMap((group) =>
                group.headers.map(({ id, column }) => {
                  const { heading, kind = 'figure', onlyWide } = columnOf.get(id) as Column<Row>
                  const direction = column.getIsSorted()
                  const isSorted = direction === false ? undefined : direction === 'desc' ? 'descending' : 'ascending'
                  return (
                    <th key={id} className={classOf(kind, onlyWide)} scope="col" aria-sort={isSorted}>
                      {column.getCanSort() ? (
                        <Button variant="bare" className="table-sort" onClick={() => (order ? order.onSort(id) : column.toggleSorting())}>
                          {heading}
                          <i aria-hidden="true">{direction === false ? '' : direction === 'desc' ? '↓' : '↑'}</i>
                        </Button>
                      ) : (
                        heading
                      )}
                    </th>
                  )
                }),
              )}
            </tr>
          </thead>
          <tbody>
            {table.getRowModel().rows.map((row) => (
              <tr key={row.id} className={rowClass?.(row.original)}>
                {shown.map(({ id, kind = 'figure', onlyWide, cell }) =>
                  kind === 'head' ? (
                    <th key={id} scope="row" className="is-head">
                      {cell(row.original)}
                    </th>
                  ) : (
                    <td key={id} className={classOf(kind, onlyWide)}>
                      {cell(row.original)}
                    </td>
                  ),
                )}
              </tr>
            ))}
          </tbody>
          {foot}
        </Table>
      </section>
    </>
  )
}

const classOf = (kind: string, onlyWide: boolean | undefined) => `is-${kind}${onlyWide ? ' only-wide' : ''}`

function compare(a: unknown, b: unknown): number {
  if (typeof a === 'string' && typeof b === 'string') return a.localeCompare(b)
  return Number(a) - Number(b)
}
