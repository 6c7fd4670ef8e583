/** The part of npm jstat that the tests hold our figures against; the package ships no types. */
declare module "jstat" {
  const lib: {
    jStat: {
      normal: { cdf(x: number, mean: number, sd: number): number };
      studentt: { cdf(x: number, dof: number): number; inv(p: number, dof: number): number };
    };
  };
  export default lib;
}
