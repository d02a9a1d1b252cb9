import type { Claim } from '@fleam/contract/claims'
import type { Kitchen } from '@fleam/contract/kitchen'
import { claimLines } from '@fleam/core/receiving/claim-text'
import PDFDocument from 'pdfkit'
import { fonts } from '../../pdf-fonts.ts'
import { drawPictures, type PdfPicture } from '../../pdf-pictures.ts'

const margin = 56

export interface ClaimSheet {
  claim: Claim
  kitchen: Kitchen
  pictures: PdfPicture[]
}

/** A claim as one A4 page, with what was photographed, as the bytes of a PDF. */
export async function writeClaim({ claim, kitchen, pictures }: ClaimSheet): Promise<Uint8Array> {
  const { settings } = kitchen
  const doc = new PDFDocument({ size: 'A4', margin, info: { Title: `Claim ${claim.number}` } })
  const chunks: Buffer[] = []
  const done = new Promise<Uint8Array>((resolve, reject) => {
    doc.on('data', (chunk: Buffer) => chunks.push(chunk))
    doc.on('end', () => resolve(new Uint8Array(Buffer.concat(chunks))))
    doc.on('error', reject)
  })
  for (const [name, file] of Object.entries(fonts)) doc.registerFont(name, file)
  const day = new Intl.DateTimeFormat(settings.locale, { dateStyle: 'long', timeZone: settings.timeZone })
  const [title = '', ...lines] = claimLines(
    { ...claim, ...claim.run, number: claim.number, cameOn: day.format(new Date(claim.run.startedAt)) },
    { kitchen: kitchen.name, ...settings },
  )
  doc.font('strong').fontSize(22).text(title).moveDown()
  doc.font('words').fontSize(13)
  for (const line of lines) doc.text(line, { paragraphGap: 8 })
  doc
    .moveDown()
    .fontSize(11)
    .text(`${claim.by}, ${day.format(new Date(claim.at))}`)
  if (pictures.length > 0) {
    doc.moveDown()
    drawPictures(doc, pictures, { left: margin, width: 595.28 - 2 * margin, top: margin, bottom: 841.89 - margin })
  }
  doc.end()
  return done
}
