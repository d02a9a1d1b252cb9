import type { Kitchen } from '@fleam/contract/kitchen'
import type { Run } from '@fleam/contract/runs'
import { portionStatistics } from '@fleam/core/portions/portion-statistics'
import { currencyDecimals, formatMoney } from '@fleam/core/quantities/format-money'
import { formatWeight } from '@fleam/core/quantities/format-weight'
import { dayOf } from '@fleam/core/quantities/house-day'
import { gramsOf, sumGrams, tenthsOf } from '@fleam/core/quantities/weight'
import { costLadder } from '@fleam/core/runs/cost-ladder'
import { totalsByTub } from '@fleam/core/runs/ledger'
import { nameOfPortions, platedTubs } from '@fleam/core/runs/plates'
import { decisionCostPerKg, portionsOf, readyCutCostFor, sharedTestOfRun, tubOfPortions } from '@fleam/core/runs/run-record'
import type { YieldTest } from '@fleam/core/runs/yield-test'
import { openPdf } from '../../open-pdf.ts'
import { drawPictures, type PdfPicture } from '../../pdf-pictures.ts'

const ink = '#11211f'
const dim = '#5b6b69'
const rule = '#c3cdcb'
const hot = '#c2410c'
const roleColours = { main: '#0f6b63', coproduct: '#4a5bb5', byproduct: '#a66a00', waste: '#6b7280' }
const roleWords = { main: 'main', coproduct: 'co-product', byproduct: 'by-product', waste: 'waste' }
const margin = 42
const width = 595.28 - 2 * margin

/** What a sheet for the wall is of. */
export interface YieldTestSheet {
  run: Run
  kitchen: Kitchen
  pictures: PdfPicture[]
}

/** A yield test on one A4 page that can be hung on the wall, its pictures on those behind it, as the bytes of a PDF. */
export async function writeYieldTestSheet({ run, kitchen, pictures }: YieldTestSheet): Promise<Uint8Array> {
  const { doc, end } = openPdf({
    size: 'A4',
    margins: { top: margin, left: margin, right: margin, bottom: 0 },
    info: { Title: `Yield test ${run.number}` },
  })
  const { test } = sharedTestOfRun(run)
  const sheet: Sheet = {
    doc,
    run,
    kitchen,
    test,
    money: (amount) => formatMoney(amount, kitchen.settings.currency),
    weight: (grams) => formatWeight(tenthsOf(grams), kitchen.settings.weightSystem),
  }
  writeHead(sheet)
  drawBalance(sheet)
  writeOutputs(sheet)
  writeLadder(sheet)
  writePortions(sheet)
  writeFoot(sheet)
  if (pictures.length > 0) {
    doc.addPage()
    doc.y = margin
    doc.fillColor(ink)
    drawPictures(doc, pictures, { left: margin, width, top: margin, bottom: 841.89 - margin })
  }
  return end()
}

interface Sheet {
  doc: PDFKit.PDFDocument
  run: Run
  kitchen: Kitchen
  test: YieldTest
  money: (amount: number) => string
  weight: (grams: number) => string
}

/** Characters that the shipped typefaces lack are shown as a box rather than as nothing. */
function printable(text: string): string {
  return text.replace(/[^\u0020-\u00ff\u0131\u0152\u0153\u2013-\u2014\u2018-\u201d\u2022\u2026\u2032\u2033\u20ac\u2122\u2212]/gu, '□')
}

function writeHead({ doc, run, kitchen, money, weight }: Sheet): void {
  doc
    .font('strong')
    .fontSize(20)
    .fillColor(ink)
    .text(printable(`Yield test ${run.number}: ${run.item.name}`), margin, margin, { width })
  doc.font('words').fontSize(10).fillColor(dim).text(printable(kitchen.name), { width })
  const { price } = run.quote
  const per = price.per === 'case' ? `case of ${price.count ?? weight(price.grams ?? 0)}` : price.per
  const facts = [
    `${run.cutSheet.name} · cut by ${run.cook.name} · ${dayOf(run.startedAt, kitchen.settings.timeZone)}${run.minutes === null ? '' : ` · ${run.minutes} min`}`,
    `${run.supplier?.name ?? 'no supplier noted'}${run.lot ? ` · lot ${run.lot}` : ''} · ${money(price.amount)} per ${per} · billed ${weight(gramsOf(run.billed.tenths))}, received ${weight(gramsOf(run.received.tenths))}`,
  ]
  if (run.coreTempC !== null)
    facts.push(
      `Core ${run.coreTempC} °C at receiving${run.temperature ? `, over the limit of ${run.temperature.limitC} °C: ${run.temperature.note}` : ''}`,
    )
  doc.moveDown(0.4).fillColor(ink)
  for (const fact of facts) doc.text(printable(fact), { width })
  if (run.status === 'open') doc.fillColor(hot).text('Still open: these figures are not final.')
  doc.moveDown(0.8)
}

function drawBalance({ doc, run, test }: Sheet): void {
  const top = doc.y
  let left = margin
  const totals = totalsByTub(run.weighings)
  for (const tub of run.tubs) {
    const share = ((totals.get(tub.id)?.tenths ?? 0) / run.received.tenths) * width
    if (share <= 0) continue
    doc.rect(left, top, share, 20).fill(roleColours[tub.role])
    doc
      .moveTo(left + share, top)
      .lineTo(left + share, top + 20)
      .lineWidth(0.7)
      .stroke('#ffffff')
    left += share
  }
  doc.rect(margin, top, width, 20).lineWidth(0.7).stroke(rule)
  const { mainPct, usablePct, unaccountedPct } = test.yields
  const line = `On plates ${mainPct.toFixed(1)} %   ·   usable ${usablePct.toFixed(1)} %   ·   unaccounted ${unaccountedPct.toFixed(1)} %`
  doc
    .font('strong')
    .fontSize(11)
    .fillColor(ink)
    .text(line, margin, top + 26)
  if (run.unaccountedReason)
    doc
      .font('words')
      .fontSize(9)
      .fillColor(dim)
      .text(printable(`Unaccounted: ${run.unaccountedReason}`), { width })
  doc.moveDown(0.8)
}

function writeOutputs({ doc, run, test, money, weight }: Sheet): void {
  const columns = [0, 190, 260, 325, 375, 440] as const
  const heads = ['Output', 'Weight', 'Share', 'Pieces', 'Cost per kg', 'Per portion']
  writeCells(doc, heads, columns, 'words', dim)
  const totals = totalsByTub(run.weighings)
  for (const tub of run.tubs) {
    const total = totals.get(tub.id) ?? { tenths: 0, count: 0 }
    const cost = test.outputs.find((output) => output.id === tub.id)
    const portioned = tub.targetTenths !== null && cost?.costPerPortion != null
    const cells = [
      `${tub.name} (${roleWords[tub.role]})`,
      weight(gramsOf(total.tenths)),
      `${((total.tenths / run.received.tenths) * 100).toFixed(1)} %`,
      String(total.count),
      cost?.costPerKg != null && tub.role !== 'waste' ? money(cost.costPerKg) : '–',
      portioned ? money(cost.costPerPortion ?? 0) : '–',
    ]
    writeCells(doc, cells, columns, 'figures', ink)
  }
  doc.moveDown(0.6)
}

function writeLadder({ doc, run, kitchen, test, money }: Sheet): void {
  doc.font('strong').fontSize(12).fillColor(ink).text('From the invoice to what the portions carry', margin, doc.y)
  doc.moveDown(0.3)
  const { steps, net } = costLadder(test, run.tubs, run.method, currencyDecimals(kitchen.settings.currency))
  const names = {
    purchase: 'As invoiced',
    claim: 'Given back by the supplier',
    labour: 'Labour',
    consumables: 'Wrap, twine',
    disposal: 'Waste haulage',
  }
  for (const step of steps) {
    const name = step.kind === 'credit' ? `less ${run.tubs.find((tub) => tub.id === step.outputId)?.name ?? ''}` : names[step.kind]
    writeCells(doc, [name, money(step.amount)], [0, 190], 'figures', ink)
  }
  writeCells(doc, ['Left to carry', money(net)], [0, 190], 'strong', ink)
  doc.moveDown(0.6)
}

function writePortions(sheet: Sheet): void {
  const { doc, run, money } = sheet
  const tub = tubOfPortions(run.tubs)
  const weights = portionsOf(run)
  if (!tub || weights.length === 0) return
  doc
    .font('strong')
    .fontSize(12)
    .fillColor(ink)
    .text(
      printable(`${nameOfPortions(tub, platedTubs(run)?.tubs)}: ${weights.length} ${weights.length === 1 ? 'portion' : 'portions'}`),
      margin,
      doc.y,
    )
  if (tub.targetTenths !== null) writeEvenness(sheet, weights, gramsOf(tub.targetTenths), gramsOf(tub.toleranceTenths ?? 0), tub.id)
  const mean = sumGrams(weights) / weights.length
  const perKg = decisionCostPerKg(run)
  const make = perKg === null ? null : (perKg * mean) / 1000
  const buy = readyCutCostFor(run, mean)
  if (make !== null && buy !== undefined) {
    const verdict =
      buy >= make ? `Cutting here saves ${money(buy - make)} a portion.` : `Ready-cut is ${money(make - buy)} a portion cheaper.`
    doc
      .moveDown(0.6)
      .font('figures')
      .fontSize(26)
      .fillColor(ink)
      .text(`${money(make)} cut here`, { continued: true })
      .fillColor(dim)
      .text(`   ${money(buy)} ready-cut, same weight`)
    doc
      .font('strong')
      .fontSize(12)
      .fillColor(buy >= make ? roleColours.main : hot)
      .text(verdict)
  }
}

function writeEvenness({ doc, test, money, weight }: Sheet, weights: number[], target: number, tolerance: number, tubId: string): void {
  const cost = test.outputs.find((output) => output.id === tubId)
  const statistics = portionStatistics({ weights, target, tolerance, costPerKg: cost?.costPerKg ?? undefined })
  doc.font('words').fontSize(10)
  doc.text(
    `Target ${weight(target)}. Mean ${weight(statistics.mean)}, from ${weight(statistics.min)} to ${weight(statistics.max)}. ` +
      `${statistics.under} under, ${statistics.within} within, ${statistics.over} over. ` +
      `Given away ${weight(statistics.giveawayGrams)}${statistics.giveawayCost === null ? '' : `, ${money(statistics.giveawayCost)}`}.`,
    { width },
  )
}

function writeFoot({ doc, run }: Sheet): void {
  const notes = run.defects.map((defect) => (defect.note ? `${defect.kind}: ${defect.note}` : defect.kind))
  if (notes.length > 0)
    doc
      .moveDown(0.6)
      .font('words')
      .fontSize(10)
      .fillColor(ink)
      .text(printable(`Noted: ${notes.join('; ')}`), margin, doc.y, { width })
  const caution = 'Figures of this kitchen. Local food code and licensed practice come first.'
  doc
    .font('words')
    .fontSize(8)
    .fillColor(dim)
    .text(caution, margin, 841.89 - 36, { width, lineBreak: false })
}

function writeCells(doc: PDFKit.PDFDocument, cells: readonly string[], columns: readonly number[], font: string, colour: string): void {
  const top = doc.y
  cells.forEach((cell, index) => {
    const left = columns[index] ?? 0
    const right = columns[index + 1] ?? width
    doc
      .font(index === 0 ? 'words' : font)
      .fontSize(10.5)
      .fillColor(colour)
    doc.text(printable(cell), margin + left, top, { width: right - left - 6, lineBreak: false, ellipsis: true })
  })
  doc.x = margin
  doc.y = top + 16
  doc
    .moveTo(margin, doc.y - 3)
    .lineTo(margin + width, doc.y - 3)
    .lineWidth(0.4)
    .stroke(rule)
}
