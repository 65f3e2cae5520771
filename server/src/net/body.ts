// Reading what another server answers, without trusting it to end or to be short.

/**
 * Hands on every piece of a body until it ends.
 * An aborted fetch does not always end a pending read of its body, so the reader itself is cancelled.
 * @throws the signal's reason when it is aborted
 */
export async function readPieces(response: Response, ending: AbortSignal, take: (piece: Buffer) => void): Promise<void> {
  const reader = response.body?.getReader();
  if (!reader) return;
  const cancel = () => void reader.cancel().catch(() => {});
  ending.addEventListener('abort', cancel);
  try {
    for (;;) {
      const { value, done } = await reader.read();
      if (ending.aborted) throw ending.reason;
      if (done) return;
      take(Buffer.from(value.buffer, value.byteOffset, value.byteLength));
    }
  } finally {
    ending.removeEventListener('abort', cancel);
    cancel();
  }
}

/** A whole body. @throws Error where it is longer than `mostBytes`, or not whole within `milliseconds` */
export async function readBody(response: Response, maxBytes: number, milliseconds: number): Promise<Buffer> {
  const ending = new AbortController();
  const timer = setTimeout(() => ending.abort(new Error(`the answer was incomplete after ${milliseconds / 1000} s`)), milliseconds);
  const pieces: Buffer[] = [];
  let length = 0;
  try {
    await readPieces(response, ending.signal, (piece) => {
      length += piece.length;
      if (length > maxBytes) throw new Error(`the answer is longer than ${maxBytes} bytes`);
      pieces.push(piece);
    });
    return Buffer.concat(pieces);
  } finally {
    clearTimeout(timer);
  }
}
