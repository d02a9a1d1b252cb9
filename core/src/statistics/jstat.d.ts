/** What Fleam uses of jStat, which brings no types. */
declare module 'jstat' {
  interface Distribution {
    cdf(x: number, degreesOfFreedom: number): number
    inv(p: number, degreesOfFreedom: number): number
  }
  const jstat: { jStat: { studentt: Distribution } }
  export default jstat
}
