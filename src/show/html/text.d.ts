/** Files that are built in as text. */
declare module '*.css' {
  const text: string;
  export default text;
}

declare module '*.script' {
  const text: string;
  export default text;
}
