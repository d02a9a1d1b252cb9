import { largestPicture, longestSide } from '@fleam/contract/pictures'

const largestFile = 40 * 1024 * 1024
const qualities = [0.82, 0.6, 0.4]

/** Why a file cannot be taken for a picture, in words. */
export class NotAPicture extends Error {}

/**
 * A photo made small enough to send: upright, at most 1,600 pixels a side, JPEG. Drawn anew, so that nothing of what a camera
 * writes beside it (place, device, hour) goes along.
 * @throws NotAPicture where the file is no picture, or too large
 */
export async function shrink(file: File): Promise<ArrayBuffer> {
  if (!file.type.startsWith('image/'))
    throw new NotAPicture(`${file.name} is ${file.type ? `of the kind ${file.type}` : 'of an unknown kind'}: choose a photo.`)
  if (file.size > largestFile) throw new NotAPicture(`${file.name} has ${Math.round(file.size / 1024 / 1024)} MB: choose one under 40 MB.`)
  for (const quality of qualities) {
    const small = await drawnAnew(file, quality)
    if (small.size <= largestPicture) return small.arrayBuffer()
  }
  throw new NotAPicture(`${file.name} stays too large however it is packed: take it again, or choose another.`)
}

async function drawnAnew(file: File, quality: number): Promise<Blob> {
  const { default: Compressor } = await import('compressorjs')
  return new Promise((resolve, reject) => {
    new Compressor(file, {
      maxWidth: longestSide,
      maxHeight: longestSide,
      mimeType: 'image/jpeg',
      quality,
      strict: false,
      success: resolve,
      error: () => reject(new NotAPicture(`${file.name} cannot be read as a picture: choose another.`)),
    })
  })
}
