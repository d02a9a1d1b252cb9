import * as z from 'zod'
import { id, moment, stamp } from './primitives.ts'

/** What a picture shows: how it came, what went wrong, or how the tray stood. */
export const pictureSubjects = ['delivery', 'defect', 'tray'] as const
export type PictureSubject = (typeof pictureSubjects)[number]
/** Longest side, pixels: what a tablet makes of a picture before it sends it. */
export const longestSide = 1600
/** Largest file of one picture that is taken in, bytes. */
export const largestPicture = 2 * 1024 * 1024

/** What goes with the bytes of a picture. */
export const pictureCreate = z
  .object({
    about: z.enum(pictureSubjects),
    /** The note of a defect that it belongs to. */
    defectId: id.optional(),
    at: moment,
    /** Who took it, where a tablet sends what another person took. */
    personId: id.optional(),
  })
  .refine(({ about, defectId }) => (about === 'defect') === (defectId !== undefined), {
    path: ['defectId'],
    message: 'A picture of a defect names its note, and no other does.',
  })

export const picture = z.object({
  id,
  runId: id,
  about: z.enum(pictureSubjects),
  defectId: id.nullable(),
  width: z.int().positive(),
  height: z.int().positive(),
  at: stamp,
  by: z.object({ id, name: z.string() }),
})
export type Picture = z.infer<typeof picture>
export const pictures = z.object({ entries: z.array(picture) })

/** A picture within an export of runs: with its bytes, in base 64. */
export const exportedPicture = picture.omit({ runId: true }).extend({ jpeg: z.base64().max(Math.ceil(largestPicture / 3) * 4) })
export type ExportedPicture = z.infer<typeof exportedPicture>
