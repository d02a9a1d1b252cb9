import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'

const requireFrom = createRequire(join(process.cwd(), 'package.json'))
/** Fleam's own letters, for what is printed. */
export const fonts = {
  words: fontFile('@fontsource/barlow', 'barlow-latin-400-normal.woff'),
  strong: fontFile('@fontsource/barlow', 'barlow-latin-600-normal.woff'),
  figures: fontFile('@fontsource/barlow-condensed', 'barlow-condensed-latin-600-normal.woff'),
}

export type PdfFont = keyof typeof fonts

function fontFile(name: string, file: string): Buffer {
  return readFileSync(join(dirname(requireFrom.resolve(`${name}/package.json`)), 'files', file))
}
