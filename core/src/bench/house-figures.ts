/**
 * Puts a kitchen's own figures into the words of a caution, where they stand in braces; a name that has none is left as
 * it is.
 * @example withHouseFigures('Core {poultryCoreC} °C', { poultryCoreC: 74 }) === 'Core 74 °C'
 */
export function withHouseFigures(text: string, figures: Readonly<Record<string, number>>): string {
  return text.replace(/\{(\w+)\}/g, (braced, name: string) => String(figures[name] ?? braced))
}
