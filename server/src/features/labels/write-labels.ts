import type { LabelSize } from '@fleam/contract/labels'
import type { Lot } from '@fleam/contract/walk-in'
import { toBuffer } from 'bwip-js/node'
import { openPdf } from '../../open-pdf.ts'
import type { PdfFont } from '../../pdf-fonts.ts'

/** Sizes that labels come in, in mm; a sheet holds several, from its left upper corner on. */
const labelSizes = {
  '62x29': { width: 62, height: 29 },
  '100x50': { width: 100, height: 50 },
  'a4-24': { width: 70, height: 37, sheet: { width: 210, height: 297, columns: 3, rows: 8 } },
} as const

/** What a label says, written as the kitchen writes it. */
export interface Label {
  name: string
  /** Of which item, where it was cut from one. */
  of: string
  amount: string
  lot: string
  packed: string
  useBy: string
  allergens: string
  isFormed: boolean
  state: Lot['state']
  by: string
  /** What its code says: the address that opens the lot. */
  address: string
}

export interface LabelSheet {
  labels: readonly Label[]
  size: LabelSize
}

const point = 72 / 25.4
const ink = '#000000'
/** How much smaller a line may be written to fit. */
const smallest = 0.6

/** Labels as the bytes of a PDF, one a page, or as many as a sheet holds. Black on white: label printers know no other. */
export async function writeLabels({ labels, size }: LabelSheet): Promise<Uint8Array> {
  const measures = labelSizes[size]
  const sheet = 'sheet' in measures ? measures.sheet : undefined
  const page = sheet ?? measures
  const { doc, end } = openPdf({
    size: [page.width * point, page.height * point],
    margin: 0,
    autoFirstPage: false,
    info: { Title: 'Labels' },
  })
  const perPage = sheet ? sheet.columns * sheet.rows : 1
  for (const [index, label] of labels.entries()) {
    const at = index % perPage
    if (at === 0) doc.addPage()
    const left = sheet ? (at % sheet.columns) * measures.width : 0
    const top = sheet ? Math.floor(at / sheet.columns) * measures.height : 0
    const code = await (toBuffer({ bcid: 'qrcode', text: label.address, scale: 4 }) as Promise<Buffer>)
    drawLabel(doc, label, code, { left: left * point, top: top * point, width: measures.width * point, height: measures.height * point })
  }
  return end()
}

interface Box {
  left: number
  top: number
  width: number
  height: number
}

function drawLabel(doc: PDFKit.PDFDocument, label: Label, code: Buffer, box: Box): void {
  const edge = 2 * point
  const codeSize = Math.min(box.height * 0.56, box.width * 0.3)
  const width = box.width - 3 * edge - codeSize
  const unit = box.height / 29
  const [left, top] = [box.left + edge, box.top + edge * 0.8]
  doc.fillColor(ink)
  const line = (font: PdfFont, size: number, text: string, y: number, wide = width) => {
    doc.font(font).fontSize(size * unit)
    // a long name is written smaller before it is cut off
    const shrunk = Math.max(smallest, Math.min(1, wide / Math.max(1, doc.widthOfString(text) + 1)))
    doc.fontSize(size * unit * shrunk)
    doc.text(text, left, top + y * unit, { width: wide, height: size * unit * 1.25, ellipsis: true, lineBreak: false })
  }
  line('strong', 4.6, label.name, 0)
  line('words', 2.8, label.of, 5.4)
  line('figures', 4.2, label.amount, 8.8)
  line('strong', 4, `Use by ${label.useBy}`, 13.4)
  line('words', 2.8, `Packed ${label.packed} · ${label.by}`, 18.2)
  line(
    'words',
    2.8,
    [label.state === 'chilled' ? '' : label.state, label.isFormed ? 'formed: cook through' : ''].filter(Boolean).join(' · '),
    21.3,
  )
  line('strong', 2.8, label.allergens === '' ? '' : `Contains ${label.allergens}`, 24.4, box.width - 2 * edge)
  const codeLeft = box.left + box.width - edge - codeSize
  doc.image(code, codeLeft, top, { width: codeSize, height: codeSize })
  doc.font('figures').fontSize(4 * unit)
  doc.text(label.lot, codeLeft, top + codeSize + unit, { width: codeSize, align: 'center', lineBreak: false })
}
