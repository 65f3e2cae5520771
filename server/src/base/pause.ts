// Waiting that can be ended.

/** Resolves after so long, or as soon as the signal ends it. */
export const pause = (ms: number, closing: AbortSignal) =>
  new Promise<void>((resolve) => {
    if (closing.aborted) return resolve();
    const timer = setTimeout(done, ms);
    function done() {
      clearTimeout(timer);
      closing.removeEventListener('abort', done);
      resolve();
    }
    closing.addEventListener('abort', done);
  });
