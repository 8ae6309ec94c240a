declare module "jstat" {
  const jstat: {
    stdev(numbers: readonly number[], sample: boolean): number;
    readonly normal: { inv(share: number, mean: number, deviation: number): number };
  };
  export default jstat;
}
