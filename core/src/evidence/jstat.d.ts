/** The part of jstat that the reference test compares with. */
declare module "jstat" {
  const jStat: { beta: { cdf(x: number, alpha: number, beta: number): number } };
  export default jStat;
}
