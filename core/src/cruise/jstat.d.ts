/** The part of jstat that is used here; the package brings no types of its own. */
declare module 'jstat' {
  const jStat: { readonly studentt: { inv(p: number, degreesOfFreedom: number): number } };
  export default jStat;
}
