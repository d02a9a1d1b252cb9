import type { PictureLine } from '../../outbox/outbox-line.ts'
import { outbox } from '../../outbox/tablet-outbox.ts'

const hourMs = 3_600_000

const isHeld = (line: { kind: string; isHeld?: boolean }): line is PictureLine => line.kind === 'picture' && line.isHeld === true

/** Pictures that wait on this tablet until their run is received. */
export function heldPictures(runId: string): PictureLine[] {
  return outbox
    .state()
    .lines.filter(isHeld)
    .filter((line) => line.ofRunId === runId)
}

/** Lets go of pictures of deliveries that were begun long ago and never received. */
export function letGoOfHeld(exceptRunId: string): void {
  for (const line of outbox.state().lines.filter(isHeld)) {
    if (line.ofRunId !== exceptRunId && Date.now() - Date.parse(line.at) > hourMs) void outbox.dismiss(line.id)
  }
}
