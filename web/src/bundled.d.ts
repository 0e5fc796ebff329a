/** A module with all that it imports, as the text of one: `bundledText.ts`. */
declare module '*?bundled' {
  const text: string;
  export default text;
}
