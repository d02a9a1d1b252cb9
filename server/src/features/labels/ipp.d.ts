/** What Fleam uses of ipp, which brings no types: messages of the Internet Printing Protocol, RFC 8011. */
declare module 'ipp' {
  export interface IppMessage {
    version?: string
    operation?: string
    statusCode?: string
    id?: number
    'operation-attributes-tag'?: Record<string, unknown>
    'job-attributes-tag'?: Record<string, unknown>
    'printer-attributes-tag'?: Record<string, unknown>
    data?: Buffer | string
  }
  const ipp: { serialize(message: IppMessage): Buffer; parse(bytes: Buffer): IppMessage }
  export default ipp
}
