/** The package ships its types under a name that TypeScript does not find. */
declare module 'unicode-confusables' {
  export const rectifyConfusion: (input: string) => string;
}
