import type { CutSheetVersion } from '@fleam/contract/cut-sheets'
import { useQuery } from '@tanstack/react-query'
import { get } from '../../api/http.ts'
import { counted } from '../../ui/counted.ts'
import { momentText } from '../../ui/days.ts'
import { Failed, Loading } from '../../ui/notes.tsx'

/** Every version of a sheet, what each says of the yield, and who wrote it. */
export function Versions({ id }: { id: string }) {
  const { data, error, refetch } = useQuery({
    queryKey: ['cut-sheets', id, 'versions'],
    queryFn: async () => (await get<{ entries: CutSheetVersion[] }>(`/cut-sheets/${id}/versions`)).entries,
  })
  if (error) return <Failed error={error} retry={refetch} />
  if (!data) return <Loading what="versions" />
  return (
    <ol className="plain-list">
      {data.map((version, index) => (
        <li key={version.number}>
          <b>Version {version.number}</b> {version.source === 'catalog' ? 'from Fleam’s catalog' : `by ${version.by ?? 'the kitchen'}`}
          <small>{momentText(version.at)}</small>
          <p>{differencesOf(version, data[index + 1]).join('; ')}</p>
        </li>
      ))}
    </ol>
  )
}

function differencesOf(version: CutSheetVersion, before: CutSheetVersion | undefined): string[] {
  if (!before) return [`${counted(version.body.steps.length, 'step')}, ${counted(version.body.outputs.length, 'tub')}`]
  const said: string[] = []
  if (version.body.name !== before.body.name) said.push(`named “${version.body.name}”`)
  const titles = (one: CutSheetVersion) => one.body.steps.map((step) => step.title)
  const added = titles(version).filter((title) => !titles(before).includes(title))
  const gone = titles(before).filter((title) => !titles(version).includes(title))
  if (added.length > 0) said.push(`new steps: ${added.join(', ')}`)
  if (gone.length > 0) said.push(`steps gone: ${gone.join(', ')}`)
  if (added.length + gone.length === 0 && titles(version).join() !== titles(before).join()) said.push('steps in another order')
  for (const output of version.body.outputs) {
    const was = before.body.outputs.find((one) => one.key === output.key)
    if (!was) said.push(`new tub: ${output.name}`)
    else if (was.typicalPct !== output.typicalPct) said.push(`${output.name} ${was.typicalPct} → ${output.typicalPct} %`)
  }
  return said.length > 0 ? said : ['wording']
}
