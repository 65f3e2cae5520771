// Reading what was sent, up to a limit, by Express's own readers.

import type { Request, RequestHandler, Response } from 'express';

/** @returns the body as the reader makes it; what is too long ends in the reader's own error */
export const readWith =
  (read: RequestHandler) =>
  (request: Request, response: Response): Promise<unknown> =>
    new Promise((resolve, reject) =>
      read(request, response, (thrown?: unknown) => (thrown ? reject(thrown as Error) : resolve(request.body))),
    );
