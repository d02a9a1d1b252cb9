/** What a cook calls the ways that cost is shared, the units and what an output is. */
export const methodWords = { 'byproduct-credit': 'by-products credited', 'sales-value': 'by sales value', weight: 'by weight' }
export const unitWords = { g: 'grams', ml: 'litres', piece: 'pieces' }
export const roleOptions = [
  { value: 'main', label: 'what it is made for' },
  { value: 'coproduct', label: 'co-product' },
  { value: 'byproduct', label: 'by-product' },
  { value: 'waste', label: 'thrown away' },
]
