import { useDrag } from '@use-gesture/react'
import { type RefObject, useRef } from 'react'

interface DragAlong {
  /** Units of the drawing that its width shows. */
  width: number
  /** A handle is taken hold of. */
  onTake?: (handle: number) => void
  /** Where the finger is now, in units of the drawing from its left edge, and how far that is from where it began. */
  onDrag: (handle: number, at: number, moved: number) => void
}

/**
 * Handles of a drawing that are dragged along it with a finger or a mouse. The finger may leave the drawing: the handle keeps
 * following until it is lifted.
 *
 * @returns `drawing` for the SVG, `handle(index)` for what is dragged
 */
export function useDragAlong({ width, onTake, onDrag }: DragAlong) {
  const drawing: RefObject<SVGSVGElement | null> = useRef(null)
  const handle = useDrag(
    ({ args: [index], first, xy: [x], initial: [begin] }) => {
      const box = drawing.current?.getBoundingClientRect()
      if (!box) return
      if (first) onTake?.(index)
      const scale = width / box.width
      onDrag(index, (x - box.left) * scale, (x - begin) * scale)
    },
    { pointer: { capture: true, keys: false }, filterTaps: false },
  )
  return { drawing, handle: (index: number) => handle(index) }
}
