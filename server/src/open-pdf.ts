import PDFDocument from 'pdfkit'
import { fonts } from './pdf-fonts.ts'

/** A PDF to be written on in Fleam's fonts; `end` gives its bytes. */
export function openPdf(options: PDFKit.PDFDocumentOptions): { doc: PDFKit.PDFDocument; end: () => Promise<Uint8Array> } {
  const doc = new PDFDocument(options)
  const chunks: Buffer[] = []
  const done = new Promise<Uint8Array>((resolve, reject) => {
    doc.on('data', (chunk: Buffer) => chunks.push(chunk))
    doc.on('end', () => resolve(new Uint8Array(Buffer.concat(chunks))))
    doc.on('error', reject)
  })
  for (const [name, file] of Object.entries(fonts)) doc.registerFont(name, file)
  return {
    doc,
    end: () => {
      doc.end()
      return done
    },
  }
}
