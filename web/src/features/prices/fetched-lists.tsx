import type { FetchedList, Supplier } from '@fleam/contract/prices'
import { useQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { fetchedListsQuery } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { momentText } from '../../ui/days.ts'
import { Failed, Warning, Word } from '../../ui/notes.tsx'
import { useChange } from '../../ui/use-change.ts'

interface FetchedListsProps {
  suppliers: readonly Supplier[]
  onShow: (list: FetchedList) => void
}

/** What was fetched last from each supplier's address: prices that moved wait until somebody has looked at them. */
export function FetchedLists({ suppliers, onShow }: FetchedListsProps) {
  const lists = useQuery({ ...fetchedListsQuery, staleTime: 0 })
  const refresh = [fetchedListsQuery.queryKey]
  const fetching = useChange<string, FetchedList>({ send: (id) => send<FetchedList>('POST', `/suppliers/${id}/fetch`), refresh })
  const lettingGo = useChange<string>({ send: (id) => send('POST', `/fetched-lists/${id}/let-go`), refresh })
  const fed = suppliers.filter(({ feed }) => feed !== null)
  if (fed.length === 0) return null
  if (lists.error && !lists.data) return <Failed error={lists.error} retry={lists.refetch} />
  const trouble = fetching.trouble ?? lettingGo.trouble
  return (
    <section className="sheet" aria-label="Lists that are fetched">
      {trouble && <Warning>{trouble}</Warning>}
      <ul className="fetched-lists plain-list">
        {fed.map(({ id, name }) => {
          const last = lists.data?.entries.find((list) => list.supplierId === id)
          return (
            <li key={id}>
              {last?.state === 'failed' ? (
                <Warning>
                  The list of {name} could not be fetched, {momentText(last.at)}: {last.why}
                </Warning>
              ) : (
                <Word isGood={last?.state === 'taken' || last?.state === 'unchanged'}>
                  {last ? wordsOf(name, last) : `The list of ${name} was not fetched yet.`}
                </Word>
              )}
              <span className="actions">
                {last?.state === 'waiting' && (
                  <>
                    <Button variant="act" onClick={() => onShow(last)}>
                      Show what moved
                    </Button>
                    <Button variant="plain" disabled={lettingGo.busy} onClick={() => void lettingGo.change(last.id)}>
                      Let it go
                    </Button>
                  </>
                )}
                <Button variant="plain" disabled={fetching.busy} onClick={() => void fetching.change(id)}>
                  {fetching.busy ? 'Fetching …' : 'Fetch it now'}
                </Button>
              </span>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

function wordsOf(name: string, { state, changes, at, why }: FetchedList): string {
  const when = momentText(at)
  if (state === 'unchanged') return `The list of ${name}, ${when}, says what stands already.`
  if (state === 'taken') return `The list of ${name}, ${when}, was taken.`
  if (state === 'let go') return `The list of ${name}, ${when}, was let go.`
  return `The list of ${name}, ${when}: ${counted(changes, 'price differs', 'prices differ')} from what stands. ${why}`
}
