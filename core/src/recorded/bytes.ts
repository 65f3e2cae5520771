// Numbers and texts as bytes: counts in groups of seven bits, the lowest first, the top bit saying that more come (LEB128).

export type ByteWriter = {
  one(value: number): void;
  two(value: number): void;
  /** A whole number from 0. */
  count(value: number): void;
  /** A whole number of either sign, small ones short. */
  signed(value: number): void;
  text(value: string): void;
  all(bytes: Uint8Array): void;
  bytes(): Uint8Array;
};

export function byteWriter(): ByteWriter {
  const out: number[] = [];
  const count = (value: number) => {
    let left = value;
    // Beyond 32 bits: no shifts.
    for (; left >= 128; left = Math.floor(left / 128)) out.push((left % 128) | 128);
    out.push(left);
  };
  return {
    one: (value) => void out.push(value),
    two: (value) => void out.push(value & 255, value >>> 8),
    count,
    signed: (value) => count(value < 0 ? -2 * value - 1 : 2 * value),
    text(value) {
      const bytes = new TextEncoder().encode(value);
      count(bytes.length);
      out.push(...bytes);
    },
    all: (bytes) => void out.push(...bytes),
    bytes: () => Uint8Array.from(out),
  };
}

/** Throws RangeError where the data ends too early. */
export type ByteReader = {
  one(): number;
  two(): number;
  count(): number;
  signed(): number;
  text(): string;
  some(length: number): Uint8Array;
  left(): number;
};

export function byteReader(bytes: Uint8Array): ByteReader {
  let at = 0;
  const one = () => {
    if (at >= bytes.length) throw new RangeError('the data ends too early');
    return bytes[at++]!;
  };
  const count = () => {
    let [value, times] = [0, 1];
    for (;;) {
      const byte = one();
      value += (byte & 127) * times;
      if (byte < 128) return value;
      times *= 128;
    }
  };
  const some = (length: number) => {
    if (at + length > bytes.length) throw new RangeError('the data ends too early');
    at += length;
    return bytes.subarray(at - length, at);
  };
  return {
    one,
    two: () => one() | (one() << 8),
    count,
    signed() {
      const value = count();
      return value % 2 ? -(value + 1) / 2 : value / 2;
    },
    text: () => new TextDecoder().decode(some(count())),
    some,
    left: () => bytes.length - at,
  };
}

/** Fletcher's check over 16 bits (RFC 1146, appendix I, with modulus 255). */
export function checkSum(bytes: Uint8Array): number {
  let [a, b] = [0, 0];
  for (const byte of bytes) {
    a = (a + byte) % 255;
    b = (b + a) % 255;
  }
  return (b << 8) | a;
}
