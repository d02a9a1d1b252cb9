import Button from 'react-bootstrap/Button'
import { SidePanel } from '../../../ui/side-panel.tsx'

interface ItemsPanelProps {
  pieces: number
  item: number
  itemsDone: ReadonlySet<number>
  onChoose: (item: number) => void
  onClose: () => void
}

/** Every item of the run, to go to any of them, also one that was said to be done. */
export function ItemsPanel({ pieces, item, itemsDone, onChoose, onClose }: ItemsPanelProps) {
  return (
    <SidePanel title="Items of this run" onClose={onClose}>
      <div className="item-choice">
        {Array.from({ length: pieces }, (_, index) => index + 1).map((one) => (
          <Button
            key={one}
            variant="plain"
            aria-pressed={one === item}
            onClick={() => {
              onChoose(one)
              onClose()
            }}
          >
            {one} {itemsDone.has(one) && <small>done</small>}
          </Button>
        ))}
      </div>
    </SidePanel>
  )
}
