/**
 * Input that a calculation cannot accept, with the place it stands at and a sentence for the person who typed it.
 * `field` is a dotted path into the input, such as `outputs.2.grams`.
 */
export class InputError extends Error {
  readonly field: string

  constructor(field: string, message: string) {
    super(message)
    this.name = 'InputError'
    this.field = field
  }
}
