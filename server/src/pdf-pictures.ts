/** A picture to go into a PDF, and what stands under it. */
export interface PdfPicture {
  jpeg: Uint8Array
  words: string
}

interface Place {
  left: number
  width: number
  /** Where a page ends, and where its next begins. */
  bottom: number
  top: number
}

const across = 2
const gap = 14
const wordsHeight = 16

/** Draws pictures two in a row from where the document stands, on as many pages as they need; points throughout. */
export function drawPictures(doc: PDFKit.PDFDocument, pictures: readonly PdfPicture[], { left, width, bottom, top }: Place): void {
  const side = (width - gap * (across - 1)) / across
  const height = side * 0.75
  let y = doc.y
  pictures.forEach(({ jpeg, words }, index) => {
    const column = index % across
    if (column === 0 && index > 0) y += height + wordsHeight + gap
    if (column === 0 && y + height + wordsHeight > bottom) {
      doc.addPage()
      y = top
    }
    const x = left + column * (side + gap)
    doc.image(Buffer.from(jpeg), x, y, { fit: [side, height], align: 'center', valign: 'center' })
    doc
      .font('words')
      .fontSize(9)
      .text(words, x, y + height + 3, { width: side, lineBreak: false, ellipsis: true })
  })
  doc.x = left
  doc.y = y + height + wordsHeight + gap
}
