import { longestSide } from '@fleam/contract/pictures'
import sharp from 'sharp'
import { ProblemError } from '../../http/problems.ts'
import { takeTurns } from '../../turns.ts'

const thumbnailSide = 320
/** More than a tablet's camera takes, and little enough to be read in a moment. */
const mostPixels = 60_000_000

// one picture after the other, on one thread: a bench that weighs meanwhile is served first
sharp.concurrency(1)
const turns = takeTurns({
  atOnce: 1,
  mostWaiting: 200,
  refuse: () => new ProblemError('busy', { detail: 'Many pictures come in at once: it is sent again in a moment.' }, 5),
})

export interface ReadPicture {
  jpeg: Buffer
  thumbnail: Buffer
  width: number
  height: number
}

/**
 * A picture as it is kept: upright, at most 1,600 pixels a side, without what a camera writes beside it (place, device, hour).
 * What is already so is kept byte for byte. The work is done on threads of libvips, not on the event loop.
 *
 * @throws ProblemError `not-a-picture` where the bytes are no picture that can be read to its end
 */
export async function readPicture(bytes: Buffer): Promise<ReadPicture> {
  const over = await turns.take('')
  try {
    const { format, width, height, exif, xmp, iptc, orientation } = await sharp(bytes, { limitInputPixels: mostPixels }).metadata()
    const isAsKept = format === 'jpeg' && Math.max(width, height) <= longestSide && !exif && !xmp && !iptc && !orientation
    const upright = sharp(bytes, { limitInputPixels: mostPixels, failOn: 'truncated' }).rotate()
    const kept = upright.clone().resize(longestSide, longestSide, { fit: 'inside', withoutEnlargement: true }).jpeg({ quality: 82 })
    const [whole, thumbnail] = await Promise.all([
      isAsKept ? { data: bytes, info: { width, height } } : kept.toBuffer({ resolveWithObject: true }),
      upright.clone().resize(thumbnailSide, thumbnailSide, { fit: 'inside' }).jpeg({ quality: 70 }).toBuffer(),
    ])
    return { jpeg: whole.data, thumbnail, width: whole.info.width, height: whole.info.height }
  } catch {
    throw new ProblemError('not-a-picture', { detail: 'Send a photo as JPEG, PNG or WebP; nothing was kept of this one.' })
  } finally {
    over()
  }
}
