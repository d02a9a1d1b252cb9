const formats = new Map<string, Intl.NumberFormat>()

/** Making a format takes far longer than using it, so each currency's is kept. */
function formatOf(currency: string): Intl.NumberFormat {
  const known = formats.get(currency)
  if (known) return known
  const made = new Intl.NumberFormat('en', { style: 'currency', currency })
  formats.set(currency, made)
  return made
}

/**
 * Decimal places of a currency (ISO 4217).
 * @example currencyDecimals('EUR') === 2
 */
export function currencyDecimals(currency: string): number {
  return formatOf(currency).resolvedOptions().maximumFractionDigits ?? 2
}

/**
 * An amount as a person reads it, rounded to the currency's decimals.
 * @example formatMoney(9.597, 'EUR') === '€9.60'
 */
export function formatMoney(amount: number, currency: string): string {
  const text = formatOf(currency).format(Math.abs(amount))
  const isNegative = amount < 0 && /[1-9]/.test(text)
  return isNegative ? `−${text}` : text
}
