import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  type DragOverEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import type { ReactNode } from 'react'
import Button from 'react-bootstrap/Button'
import { GripVertical, Trash } from 'react-bootstrap-icons'

interface Line {
  id: string
}

interface SortableProps<Entry extends Line> {
  items: readonly Entry[]
  nameOf: (entry: Entry, index: number) => string
  onMove: (from: number, to: number) => void
  /** With what opens below a line; lines that cannot be removed have only their name. */
  onRemove?: (index: number) => void
  children?: (entry: Entry, index: number) => ReactNode
}

/** A list to drag into order, by finger, mouse or keys. */
export function Sortable<Entry extends Line>({ items, nameOf, onMove, onRemove, children }: SortableProps<Entry>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  function drop({ active, over }: DragEndEvent) {
    if (!over || active.id === over.id) return
    const place = (id: string | number) => items.findIndex((item) => item.id === id)
    onMove(place(active.id), place(over.id))
  }
  const said = ({ active, over }: Pick<DragOverEvent, 'active' | 'over'>) => {
    const from = items.findIndex((one) => one.id === active.id)
    const place = items.findIndex((one) => one.id === over?.id) + 1
    const item = items[from]
    return item && place > 0 ? `${nameOf(item, from)}: place ${place} of ${items.length}` : ''
  }
  const announcements = { onDragStart: said, onDragOver: said, onDragEnd: said, onDragCancel: () => 'Left where it was' }
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} accessibility={{ announcements }} onDragEnd={drop}>
      <SortableContext items={items.map((item) => item.id)} strategy={verticalListSortingStrategy}>
        <ol className="sortable">
          {items.map((item, index) => (
            <SortableLine key={item.id} id={item.id} name={nameOf(item, index)} onRemove={onRemove && (() => onRemove(index))}>
              {children?.(item, index)}
            </SortableLine>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  )
}

interface SortableLineProps {
  id: string
  name: string
  onRemove: (() => void) | undefined
  children: ReactNode
}

function SortableLine({ id, name, onRemove, children }: SortableLineProps) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  const grip = (
    <Button variant="bare" className="grip" aria-label={`Drag ${name}`} {...attributes} {...listeners}>
      <GripVertical aria-hidden />
    </Button>
  )
  const line = { ref: setNodeRef, style: { transform: CSS.Transform.toString(transform), transition } }
  if (!onRemove) {
    return (
      <li {...line} className={`sortable-plain ${isDragging ? 'dragging' : ''}`}>
        {grip}
        <strong>{name}</strong>
      </li>
    )
  }
  return (
    <li {...line} className={isDragging ? 'dragging' : ''}>
      <details>
        <summary>
          {grip}
          <strong>{name}</strong>
          <Button
            variant="bare"
            className="grip"
            aria-label={`Remove ${name}`}
            onClick={(event) => {
              event.preventDefault()
              onRemove()
            }}
          >
            <Trash aria-hidden />
          </Button>
        </summary>
        {children}
      </details>
    </li>
  )
}
