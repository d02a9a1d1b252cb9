/** What Fleam uses of jStat, which brings no types. */
declare module 'jstat' {
  const jstat: {
    jStat: {
      studentt: { cdf(x: number, degreesOfFreedom: number): number; inv(p: number, degreesOfFreedom: number): number }
      normal: { cdf(x: number, mean: number, sd: number): number; inv(p: number, mean: number, sd: number): number }
      gamma: { inv(p: number, shape: number, scale: number): number }
    }
  }
  export default jstat
}
