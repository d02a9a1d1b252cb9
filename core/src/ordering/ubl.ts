import { XMLBuilder, XMLParser } from 'fast-xml-parser'
import { InputError } from '../input-error.ts'
import { readBoxCode } from '../receiving/box-code.ts'
import type { DeliveredBox, DeliveryNote, Order, OrderUnit } from './order.ts'

/**
 * Orders and despatch advices as UBL 2.3 XML (OASIS Universal Business Language 2.3, Order and DespatchAdvice): the elements that
 * an order for food needs, in the order that the schema wants them. Units are UN/ECE Recommendation 20 codes, trade items GTINs
 * (scheme 0160); the element string of each box goes as an additional property of the item.
 */
const schema = 'urn:oasis:names:specification:ubl:schema:xsd'
const namespaces = (document: string) => ({
  '@_xmlns': `${schema}:${document}-2`,
  '@_xmlns:cac': `${schema}:CommonAggregateComponents-2`,
  '@_xmlns:cbc': `${schema}:CommonBasicComponents-2`,
})
const version = '2.3'
const unitCodes: Readonly<Record<OrderUnit, string>> = { kg: 'KGM', each: 'EA', case: 'CS' }
const boxProperty = 'GS1 element string'
const largestText = 1_000_000

const builder = new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true })
const parser = new XMLParser({
  ignoreAttributes: false,
  removeNSPrefix: true,
  parseTagValue: false,
  parseAttributeValue: false,
  isArray: (name) => ['OrderLine', 'DespatchLine', 'AdditionalItemProperty'].includes(name),
})

const party = (name: string) => ({ 'cac:Party': { 'cac:PartyName': { 'cbc:Name': name } } })
const quantity = (value: number, unit: OrderUnit) => ({ '#text': value, '@_unitCode': unitCodes[unit] })
const item = (article: string, gtin: string | null, boxes: readonly DeliveredBox[] = []) => ({
  'cbc:Name': article,
  ...(gtin === null ? {} : { 'cac:StandardItemIdentification': { 'cbc:ID': { '#text': gtin, '@_schemeID': '0160' } } }),
  'cac:AdditionalItemProperty': boxes.map(({ code }) => ({ 'cbc:Name': boxProperty, 'cbc:Value': code })),
})
const written = (root: string, body: object) => `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build({ [root]: body })}`

/**
 * An order as a UBL 2.3 Order.
 * @example readUblOrder(writeUblOrder({ number: 'O-1', kitchen: 'A', supplier: 'B', orderedOn: '2026-03-14', wantedOn: '2026-03-15', currency: 'EUR', note: '', lines: [] })).number // 'O-1'
 */
export function writeUblOrder({ number, kitchen, supplier, orderedOn, wantedOn, currency, note, lines }: Order): string {
  return written('Order', {
    ...namespaces('Order'),
    'cbc:UBLVersionID': version,
    'cbc:ID': number,
    'cbc:IssueDate': orderedOn,
    ...(note === '' ? {} : { 'cbc:Note': note }),
    'cbc:DocumentCurrencyCode': currency,
    'cac:BuyerCustomerParty': party(kitchen),
    'cac:SellerSupplierParty': party(supplier),
    'cac:Delivery': { 'cac:RequestedDeliveryPeriod': { 'cbc:StartDate': wantedOn, 'cbc:EndDate': wantedOn } },
    'cac:OrderLine': lines.map((line, index) => ({
      'cac:LineItem': {
        'cbc:ID': index + 1,
        'cbc:Quantity': quantity(line.quantity, line.unit),
        ...(line.price === null ? {} : { 'cac:Price': { 'cbc:PriceAmount': { '#text': line.price, '@_currencyID': currency } } }),
        'cac:Item': item(line.article, line.gtin),
      },
    })),
  })
}

/**
 * A UBL 2.x Order.
 * @throws InputError where it is none
 * @example readUblOrder('<Order><ID>O-1</ID></Order>').number // 'O-1'
 */
export function readUblOrder(xml: string): Order {
  const order = rootOf(xml, 'Order')
  return {
    number: text(order, 'ID'),
    kitchen: text(order, 'BuyerCustomerParty', 'Party', 'PartyName', 'Name'),
    supplier: text(order, 'SellerSupplierParty', 'Party', 'PartyName', 'Name'),
    orderedOn: text(order, 'IssueDate'),
    wantedOn: text(order, 'Delivery', 'RequestedDeliveryPeriod', 'StartDate'),
    currency: text(order, 'DocumentCurrencyCode'),
    note: text(order, 'Note'),
    lines: list(order, 'OrderLine').map((entry, index) => {
      const line = at(entry, 'LineItem')
      const price = text(line, 'Price', 'PriceAmount')
      return {
        ...itemOf(line),
        quantity: amount(line, index, 'Quantity'),
        unit: unitOf(at(line, 'Quantity'), index),
        price: price === '' ? null : Number(price),
      }
    }),
  }
}

/**
 * What is on its way, as a UBL 2.3 DespatchAdvice.
 * @example writeUblDespatchAdvice({ number: 'D-1', order: 'O-1', supplier: 'A', kitchen: 'B', sentOn: '2026-03-14', lines: [] }).includes('<cbc:ID>O-1</cbc:ID>')
 */
export function writeUblDespatchAdvice({ number, order, supplier, kitchen, sentOn, lines }: DeliveryNote): string {
  return written('DespatchAdvice', {
    ...namespaces('DespatchAdvice'),
    'cbc:UBLVersionID': version,
    'cbc:ID': number,
    'cbc:IssueDate': sentOn,
    'cac:OrderReference': { 'cbc:ID': order },
    'cac:DespatchSupplierParty': party(supplier),
    'cac:DeliveryCustomerParty': party(kitchen),
    'cac:DespatchLine': lines.map((line, index) => ({
      'cbc:ID': index + 1,
      'cbc:DeliveredQuantity': quantity(line.sent, line.unit),
      ...(line.sent < line.ordered
        ? { 'cbc:OutstandingQuantity': quantity(rounded(line.ordered - line.sent), line.unit), 'cbc:OutstandingReason': line.why }
        : {}),
      'cac:OrderLineReference': { 'cbc:LineID': index + 1 },
      'cac:Item': item(line.article, line.gtin, line.boxes),
    })),
  })
}

/**
 * A UBL 2.x DespatchAdvice. What the boxes weigh, their lots and dates are read from their codes.
 * @throws InputError where it is none
 * @example readUblDespatchAdvice('<DespatchAdvice><ID>D-1</ID></DespatchAdvice>').number // 'D-1'
 */
export function readUblDespatchAdvice(xml: string): DeliveryNote {
  const note = rootOf(xml, 'DespatchAdvice')
  return {
    number: text(note, 'ID'),
    order: text(note, 'OrderReference', 'ID'),
    supplier: text(note, 'DespatchSupplierParty', 'Party', 'PartyName', 'Name'),
    kitchen: text(note, 'DeliveryCustomerParty', 'Party', 'PartyName', 'Name'),
    sentOn: text(note, 'IssueDate'),
    lines: list(note, 'DespatchLine').map((line, index) => {
      const sent = amount(line, index, 'DeliveredQuantity')
      const missing = text(line, 'OutstandingQuantity')
      const codes = list(at(line, 'Item'), 'AdditionalItemProperty').filter((property) => text(property, 'Name') === boxProperty)
      return {
        ...itemOf(line),
        sent,
        ordered: missing === '' ? sent : rounded(sent + amount(line, index, 'OutstandingQuantity')),
        unit: unitOf(at(line, 'DeliveredQuantity'), index),
        why: text(line, 'OutstandingReason'),
        boxes: codes.flatMap((property) => boxOf(text(property, 'Value'))),
      }
    }),
  }
}

function boxOf(code: string): DeliveredBox[] {
  const box = readBoxCode(code)
  return box?.tenths == null ? [] : [{ code, tenths: box.tenths, lot: box.lot, useBy: box.useBy ?? box.bestBefore }]
}

type Node = Readonly<Record<string, unknown>>

/** The root of a document. Declarations of its own are refused: they could make a short file as large as they like. */
function rootOf(xml: string, name: string): Node {
  if (xml.length > largestText) throw new InputError('xml', 'That file is over 1 MB.')
  if (/<!DOCTYPE/i.test(xml)) throw new InputError('xml', 'The file declares entities of its own (DOCTYPE): it is not read.')
  let read: Node
  try {
    read = parser.parse(xml, true) as Node
  } catch (error) {
    throw new InputError('xml', `The file is no XML: ${(error as Error).message.slice(0, 160)}`)
  }
  const root = read[name]
  if (!isNode(root)) throw new InputError('xml', `The file is no UBL ${name}.`)
  return root
}

const isNode = (value: unknown): value is Node => value !== null && typeof value === 'object' && !Array.isArray(value)

function at(node: unknown, ...path: string[]): unknown {
  return path.reduce<unknown>((inner, name) => (isNode(inner) ? inner[name] : undefined), node)
}

/** The text of an element; empty where it is not there. */
function text(node: unknown, ...path: string[]): string {
  const found = at(node, ...path)
  const value = isNode(found) ? found['#text'] : found
  return typeof value === 'string' || typeof value === 'number' ? String(value).trim().slice(0, 600) : ''
}

function list(node: unknown, name: string): unknown[] {
  const found = at(node, name)
  return Array.isArray(found) ? found : []
}

function amount(line: unknown, index: number, name: string): number {
  const value = Number(text(line, name))
  if (text(line, name) === '' || !Number.isFinite(value) || value < 0)
    throw new InputError(`lines.${index}`, `Line ${index + 1} has no ${name} that can be read.`)
  return value
}

function unitOf(node: unknown, index: number): OrderUnit {
  const code = isNode(node) ? node['@_unitCode'] : undefined
  const unit = (Object.keys(unitCodes) as OrderUnit[]).find((known) => unitCodes[known] === code)
  if (!unit) throw new InputError(`lines.${index}`, `Line ${index + 1} has the unit code “${String(code ?? '')}”: KGM, EA and CS are read.`)
  return unit
}

function itemOf(line: unknown): { article: string; gtin: string | null } {
  const gtin = text(line, 'Item', 'StandardItemIdentification', 'ID')
  return { article: text(line, 'Item', 'Name'), gtin: gtin === '' ? null : gtin }
}

const rounded = (value: number) => Math.round(value * 1000) / 1000
