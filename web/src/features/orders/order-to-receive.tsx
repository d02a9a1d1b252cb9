import type { KitchenOrder } from '@fleam/contract/ordering'
import { shortLines } from '@fleam/core/ordering/order'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { get } from '../../api/http.ts'
import { counted } from '../../ui/counted.ts'
import { Failed, Warning, Word } from '../../ui/notes.tsx'

interface OrderToReceiveProps {
  orderId: string
  onTake: (note: NonNullable<KitchenOrder['note']>, supplierId: string) => void
}

/** What an order's delivery note says is coming: what is short, and its boxes to take over. */
export function OrderToReceive({ orderId, onTake }: OrderToReceiveProps) {
  const { data, error, refetch } = useQuery({ queryKey: ['order', orderId], queryFn: () => get<KitchenOrder>(`/orders/${orderId}`) })
  // a page that is loaded anew still has them on its list
  const takenKey = `fleam.taken.${orderId}`
  const [isTaken, setTaken] = useState(() => sessionStorage.getItem(takenKey) !== null)
  if (error && !data) return <Failed error={error} retry={refetch} />
  if (!data?.note) return null
  const { note, number, supplier } = data
  const boxes = note.lines.reduce((sum, line) => sum + line.boxes.length, 0)
  const short = shortLines(note)
  return (
    <>
      <Word>
        Order O-{number} to {supplier.name}, delivery note {note.number}: {counted(boxes, 'box', 'boxes')}.{' '}
        {!isTaken && (
          <Button
            variant="line"
            onClick={() => {
              onTake(note, supplier.id)
              sessionStorage.setItem(takenKey, 'yes')
              setTaken(true)
            }}
          >
            Put its boxes on the list
          </Button>
        )}
      </Word>
      {short.length > 0 && (
        <Warning>
          Short: {short.map(({ article, sent, ordered, unit, why }) => `${article} ${sent} of ${ordered} ${unit} (${why})`).join('; ')}.
        </Warning>
      )}
    </>
  )
}
