import type { BenchEvent, Happening } from '@fleam/contract/bench'
import type { FollowOn } from '@fleam/contract/follow-ons'
import type { Picture, PictureSubject } from '@fleam/contract/pictures'
import type { Weighing } from '@fleam/contract/runs'
import type { TakenLoad } from '@fleam/contract/scales'
import type { LotWithMoves } from '@fleam/contract/walk-in'
import type { LotHappening } from '@fleam/core/walk-in/lot'

/** What this tablet holds until the server has it: a weighing, one taken back or moved, what happened beside, to a lot or to a follow-on, a picture. */
export type OutboxLine = RunLine | LotLine | FollowOnLine | PictureLine
export type RunLine = OutboxBase & { runId: string } & OutboxWhat
export type LotLine = OutboxBase & {
  kind: 'lot'
  runId?: undefined
  lotId: string
  name: string
  what: LotHappening | { kind: 'undo'; moveId: string }
}

export type FollowOnLine = OutboxBase & {
  kind: 'follow-on'
  runId?: undefined
  followOnId: string
  name: string
  what: FollowOnWhat
}
/** Weighed into a tub (on the way where `output` is null), taken back, or checked. */
export type FollowOnWhat =
  | { kind: 'weighed'; output: string | null; tenths: number; reversesId: string | null }
  | { kind: 'checked'; check: 'core' | 'cooling' | 'look'; words: string; celsius: number | null; action: string; isOut: boolean }

/** A picture of a run. It goes out beside the other lines and never before one that waits. */
export type PictureLine = OutboxBase & {
  kind: 'picture'
  runId?: undefined
  ofRunId: string
  about: PictureSubject
  defectId: string | null
  jpeg: ArrayBuffer
  /** Taken before its run was received: it waits for that. */
  isHeld?: boolean
}

export type OutboxWhat =
  | {
      kind: 'weighing'
      tubId: string
      tenths: number
      /** As typed, with its unit. */
      entered: string
      piece: number | null
      /** The load that a scale gave; absent in lines of an older page. */
      load?: TakenLoad | null
    }
  | { kind: 'reversal'; reversesId: string; tubId: string; tenths: number; entered: string; piece: number | null }
  | {
      kind: 'move'
      reversalId: string
      weighingId: string
      fromTubId: string
      tubId: string
      tenths: number
      entered: string
      piece: number | null
    }
  | { kind: 'event'; what: Happening }

interface OutboxBase {
  order: number
  id: string
  at: string
  person: { id: string; name: string }
  /** Why the server will not have it, in words and by kind; it is kept until a person has dealt with it. */
  refusal: string | null
  refusalKind?: string | undefined
}

/** A line as it is made: it gets its place and may be refused later. */
type Unset = 'order' | 'refusal' | 'refusalKind'
export type NewLine =
  | (Omit<OutboxBase, Unset> & { runId: string } & OutboxWhat)
  | Omit<LotLine, Unset>
  | Omit<FollowOnLine, Unset>
  | Omit<PictureLine, Unset>

/** What the server answered once it had a line. */
export type StoredAnswer =
  | { weighings: Weighing[] }
  | { event: BenchEvent }
  | { lot: LotWithMoves }
  | { followOn: FollowOn }
  | { picture: Picture }
