import type { Request, Response } from 'express';
import type { PersonAccess } from '@nibber/core/people';

/** The open connections of people who watch. */
export type Viewers = {
  /** @param visible what the viewer may see, asked again with every message; undefined once that is nothing */
  join(request: Request, response: Response, visible: () => PersonAccess | undefined): Promise<void>;
  /** Whether anyone listens. */
  isHeard(): boolean;
};
