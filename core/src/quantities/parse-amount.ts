export type DecimalSign = '.' | ','

const plainNumber = /^\d+(\.\d+)?$/

/**
 * Reads an amount of money as price lists write it: with a currency sign or code, thousands parted by the other sign, a
 * space or an apostrophe. `undefined` where it is none, or negative.
 *
 * @example parseAmount('€ 1.234,50', ',') === 1234.5
 */
export function parseAmount(text: string, decimalSign: DecimalSign): number | undefined {
  const bare = text.replace(/^[\s\p{Sc}]*(?:[A-Z]{3}\s)?|(?:\s*(?:\p{Sc}|[A-Z]{3}))?\s*$/gu, '').trim()
  const thousands = decimalSign === '.' ? ',' : '.'
  const groups = new RegExp(`^\\d{1,3}([${thousands}'’\\s]\\d{3})+(?=$|[${decimalSign}])`, 'u')
  const joined = bare.replace(groups, (whole) => whole.replace(/\D/g, ''))
  const plain = decimalSign === ',' ? joined.replace(',', '.') : joined
  return plainNumber.test(plain) && !(decimalSign === ',' && joined.includes('.')) ? Number(plain) : undefined
}

/**
 * The decimal sign that a column of amounts is written with: the sign before a last group of one, two or four digits or more.
 * @example guessDecimalSign(['12,40', '9,10']) === ','
 */
export function guessDecimalSign(texts: readonly string[]): DecimalSign {
  let [points, commas] = [0, 0]
  for (const text of texts) {
    const last = /([.,])(\d+)\D*$/.exec(text)
    if (!last || last[2]?.length === 3) continue
    if (last[1] === ',') commas += 1
    else points += 1
  }
  return commas > points ? ',' : '.'
}
