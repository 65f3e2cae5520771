// Words in which no secret stands: names and passwords inside addresses, and the tokens of cameras' own addresses, are cut out.

const marked = '…';

/** The same text without what must not be shown or logged. Linear in its length. */
export const withoutSecrets = (text: string): string =>
  text
    .replace(/(\/\/)[^\s/?#@"'<>]{1,400}@/g, `$1${marked}@`)
    .replace(/(\/hooks\/cameras\/)[\w%.~-]+/g, `$1${marked}`)
    .replace(/(signature=)[\w%-]+/g, `$1${marked}`)
    .replace(/(Bearer )[\w.~+/-]+/g, `$1${marked}`);

/** Every text inside a value, so far down as is ever logged. */
export function cleaned(value: unknown, depth = 0): unknown {
  if (typeof value === 'string') return withoutSecrets(value);
  if (typeof value !== 'object' || value === null || depth > 4) return value;
  if (Array.isArray(value)) return value.map((v) => cleaned(v, depth + 1));
  return Object.fromEntries(Object.entries(value).map(([key, v]) => [key, cleaned(v, depth + 1)]));
}
