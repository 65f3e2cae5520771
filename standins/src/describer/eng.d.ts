declare module '@tesseract.js-data/eng' {
  export const code: string;
  export const gzip: boolean;
  /** The folder of the data. */
  export const langPath: string;
}
