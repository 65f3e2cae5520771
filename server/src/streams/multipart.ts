// JPEG pictures out of a multipart stream (multipart/x-mixed-replace, RFC 2046 parts). Bytes come in any pieces, and each is looked at once.

const maxPictureBytes = 12_000_000;
const maxHeadBytes = 8_192;
const headEnd = Buffer.from('\r\n\r\n');
const pictureStart = Buffer.from([0xff, 0xd8, 0xff]);
const pictureEnd = Buffer.from([0xff, 0xd9]);

/** The boundary named by a content type; undefined where it names none. */
export const boundaryOf = (contentType: string | null): string | undefined =>
  /^multipart\/[^;]+;.*boundary="?([^";]+)"?/i.exec(contentType ?? '')?.[1]?.replace(/^--/, '');

/** Bytes that grow at one end and are taken from the other. What was searched once is not searched again. */
function heldBytes() {
  let bytes = Buffer.allocUnsafe(65_536);
  let [start, end, searched] = [0, 0, 0];
  return {
    get length() {
      return end - start;
    },
    add(piece: Buffer) {
      if (end + piece.length > bytes.length) {
        const length = end - start;
        const room = bytes.length >= 2 * (length + piece.length) ? bytes : Buffer.allocUnsafe(2 * (length + piece.length));
        bytes.copy(room, 0, start, end);
        [bytes, start, end, searched] = [room, 0, length, searched - start];
      }
      piece.copy(bytes, end);
      end += piece.length;
    },
    /** Where something stands, counted from the beginning; -1 where it is not there yet. */
    find(what: Buffer): number {
      const at = bytes.subarray(0, end).indexOf(what, searched);
      if (at < 0) searched = Math.max(searched, end - what.length + 1);
      return at < 0 ? -1 : at - start;
    },
    /** Lets go of so many from the beginning. */
    drop(count: number) {
      start += count;
      searched = start;
    },
    /** A copy, which stays as it is. */
    copy: (from: number, to: number) => Buffer.from(bytes.subarray(start + from, start + to)),
    text: (from: number, to: number) => bytes.toString('latin1', start + from, start + to),
  };
}

/**
 * Cuts the stream into pictures. Parts with a Content-Length are taken by it, others up to the next boundary.
 * @throws Error that says what is wrong with the stream
 */
export function pictureCutter(boundary: string, picture: (jpeg: Buffer) => void): (piece: Buffer) => void {
  const mark = Buffer.from(`--${boundary}`);
  const held = heldBytes();
  /** What is waited for: a boundary, the end of a head, or the end of a picture of known or unknown length. */
  let state: { at: 'boundary' } | { at: 'head' } | { at: 'picture'; length: number | undefined } = { at: 'boundary' };

  const next = (): boolean => {
    if (state.at === 'boundary') {
      const start = held.find(mark);
      if (start < 0) {
        if (held.length > maxHeadBytes + maxPictureBytes) throw new Error('no boundary in the stream');
        return false;
      }
      held.drop(start);
      state = { at: 'head' };
      return true;
    }
    if (state.at === 'head') {
      const head = held.find(headEnd);
      if (head > maxHeadBytes || (head < 0 && held.length > maxHeadBytes)) throw new Error('a part has a head without an end');
      if (head < 0) return false;
      const notified = /content-length:\s{0,20}(\d{1,15})/i.exec(held.text(0, head))?.[1];
      const length = notified === undefined ? undefined : Number(notified);
      if (length !== undefined && length > maxPictureBytes) throw tooLarge;
      held.drop(head + headEnd.length);
      state = { at: 'picture', length };
      return true;
    }
    const length = state.length ?? held.find(mark);
    if (length > maxPictureBytes || (length < 0 && held.length > maxPictureBytes)) throw tooLarge;
    if (length < 0 || held.length < length) return false;
    const bytes = held.copy(0, length);
    held.drop(length);
    state = { at: 'boundary' };
    if (!isJpeg(bytes)) throw new Error('a part is not a JPEG picture');
    picture(bytes);
    return true;
  };
  return (piece) => {
    held.add(piece);
    while (next());
  };
}

const tooLarge = new Error(`a picture is larger than ${maxPictureBytes} bytes`);

/** Whether bytes begin and end as a JPEG does (ITU-T T.81: SOI, EOI), line ends behind it aside. */
export function isJpeg(bytes: Buffer): boolean {
  return bytes.subarray(0, 3).equals(pictureStart) && bytes.lastIndexOf(pictureEnd) >= bytes.length - 6;
}
