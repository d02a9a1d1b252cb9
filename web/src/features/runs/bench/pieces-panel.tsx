import Button from 'react-bootstrap/Button'
import { SidePanel } from '../../../ui/side-panel.tsx'

interface PiecesPanelProps {
  count: number
  piece: number
  piecesDone: ReadonlySet<number>
  onChoose: (piece: number) => void
  onClose: () => void
}

/** Every piece of the run, to go to any of them, also one that was said to be done. */
export function PiecesPanel({ count, piece, piecesDone, onChoose, onClose }: PiecesPanelProps) {
  return (
    <SidePanel title="Pieces of this run" onClose={onClose}>
      <div className="piece-choice">
        {Array.from({ length: count }, (_, index) => index + 1).map((one) => (
          <Button
            key={one}
            variant="plain"
            aria-pressed={one === piece}
            onClick={() => {
              onChoose(one)
              onClose()
            }}
          >
            {one} {piecesDone.has(one) && <small>done</small>}
          </Button>
        ))}
      </div>
    </SidePanel>
  )
}
