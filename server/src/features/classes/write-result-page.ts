import type { Exercise, StudentResult } from '@fleam/contract/classes'
import type { Kitchen } from '@fleam/contract/kitchen'
import { openPdf } from '../../open-pdf.ts'
import { drawPictures, type PdfPicture } from '../../pdf-pictures.ts'

const margin = 50
const right = 595.28 - margin

export interface ResultPage {
  exercise: Exercise
  result: StudentResult
  kitchen: Kitchen
  pictures: PdfPicture[]
}

/** A student's marks of an exercise as one A4 page, as the bytes of a PDF. */
export async function writeResultPage({ exercise, result, kitchen, pictures }: ResultPage): Promise<Uint8Array> {
  const { settings } = kitchen
  const { student, given, computed, total, score } = result
  const { doc, end } = openPdf({ size: 'A4', margin, info: { Title: `${exercise.name}, ${student.name}` } })
  const day = new Intl.DateTimeFormat(settings.locale, { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(`${exercise.day}T12:00:00Z`))
  doc.font('strong').fontSize(22).text(student.name)
  doc.font('words').fontSize(13).text(`${exercise.name} · ${day} · ${exercise.group.name} · ${exercise.instructor.name}`)
  doc.fontSize(11).text(kitchen.name).moveDown()
  const value = total ?? score
  if (value !== null)
    doc
      .font('figures')
      .fontSize(34)
      .text(`${Math.round(value * 10) / 10} %`)
      .moveDown(0.5)
  /** A line of a name, what is said of it, and a mark at the right. */
  const row = (name: string, mark: string, word: string) => {
    const top = doc.y
    doc.font('strong').fontSize(12).text(name, margin, top, { width: 190 })
    const under = doc.y
    doc
      .font('words')
      .fontSize(11)
      .text(word, margin + 200, top, { width: right - margin - 260 })
    const end = Math.max(doc.y, under)
    doc
      .font('figures')
      .fontSize(16)
      .text(mark, right - 50, top - 2, { width: 50, align: 'right' })
    doc.y = end + 4
    doc.x = margin
    doc
      .moveTo(margin, doc.y - 2)
      .lineTo(right, doc.y - 2)
      .lineWidth(0.4)
      .strokeColor('#c3cdcb')
      .stroke()
  }
  if (exercise.task.kind === 'bench') {
    for (const { key, name, weight } of exercise.task.rubric) {
      const mark = given[key]
      row(
        weight === 1 ? name : `${name} (counts ${weight})`,
        mark?.mark === null || mark === undefined ? '–' : `${mark.mark} of 4`,
        mark?.word ?? '',
      )
    }
  }
  if (computed.length > 0) {
    doc.moveDown(0.5).font('strong').fontSize(13).text('From the scale').moveDown(0.3)
    for (const { name, mark, why } of computed) row(name, `${mark} of 4`, why)
  }
  const word = given['']?.word
  if (word) doc.moveDown(0.5).font('words').fontSize(13).text(`“${word}”`)
  if (pictures.length > 0) {
    doc.moveDown()
    drawPictures(doc, pictures, { left: margin, width: right - margin, top: margin, bottom: 841.89 - margin })
  }
  return end()
}
