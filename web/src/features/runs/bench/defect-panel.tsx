import type { Run } from '@fleam/contract/runs'
import { SidePanel } from '../../../ui/side-panel.tsx'
import { DefectNotes } from '../defect-notes.tsx'

/** A defect note on the step that one is at, or on the run. */
export function DefectPanel({ run, step, onClose }: { run: Run; step: string | null; onClose: () => void }) {
  return (
    <SidePanel title="Defect notes" onClose={onClose}>
      <DefectNotes run={run} step={step} />
    </SidePanel>
  )
}
