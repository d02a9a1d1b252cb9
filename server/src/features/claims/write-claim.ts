import type { Claim } from '@fleam/contract/claims'
import type { Kitchen } from '@fleam/contract/kitchen'
import { claimLines } from '@fleam/core/receiving/claim-text'
import { openPdf } from '../../open-pdf.ts'
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
  const { doc, end } = openPdf({ size: 'A4', margin, info: { Title: `Claim ${claim.number}` } })
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
  return end()
}
