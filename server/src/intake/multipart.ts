// JPEG pictures out of a multipart stream (multipart/x-mixed-replace, RFC 2046 parts). Bytes come in any pieces.

const mostPictureBytes = 12_000_000;
const mostHeadBytes = 8_192;
const headEnd = Buffer.from('\r\n\r\n');
const pictureStart = Buffer.from([0xff, 0xd8, 0xff]);
const pictureEnd = Buffer.from([0xff, 0xd9]);

/** The boundary named by a content type; undefined where it names none. */
export const boundaryOf = (contentType: string | null): string | undefined =>
  /^multipart\/[^;]+;.*boundary="?([^";]+)"?/i.exec(contentType ?? '')?.[1]?.replace(/^--/, '');

/**
 * Cuts the stream into pictures. Parts with a Content-Length are taken by it, others up to the next boundary.
 * @throws Error that says what is wrong with the stream
 */
export function pictureCutter(boundary: string, picture: (jpeg: Buffer) => void): (piece: Buffer) => void {
  const mark = Buffer.from(`--${boundary}`);
  let held: Buffer = Buffer.alloc(0);
  const next = (): boolean => {
    const start = held.indexOf(mark);
    if (start < 0) {
      if (held.length > mostHeadBytes + mostPictureBytes) throw new Error('no boundary in the stream');
      return false;
    }
    const head = held.indexOf(headEnd, start);
    if (head < 0) {
      if (held.length - start > mostHeadBytes) throw new Error('a part has a head without an end');
      return false;
    }
    const length = /content-length:\s*(\d+)/i.exec(held.toString('latin1', start, head))?.[1];
    const body = head + headEnd.length;
    const end = length === undefined ? held.indexOf(mark, body) : body + Number(length);
    if (end - body > mostPictureBytes || held.length - body > mostPictureBytes + mostHeadBytes)
      throw new Error(`a picture is larger than ${mostPictureBytes} bytes`);
    if (end < 0 || held.length < end) return false;
    const bytes = held.subarray(body, end);
    held = held.subarray(end);
    if (!isJpeg(bytes)) throw new Error('a part is not a JPEG picture');
    picture(bytes);
    return true;
  };
  return (piece) => {
    held = held.length ? Buffer.concat([held, piece]) : piece;
    while (next());
  };
}

/** Whether bytes begin and end as a JPEG does (ITU-T T.81: SOI, EOI), line ends behind it aside. */
export function isJpeg(bytes: Buffer): boolean {
  return bytes.subarray(0, 3).equals(pictureStart) && bytes.lastIndexOf(pictureEnd) >= bytes.length - 6;
}
