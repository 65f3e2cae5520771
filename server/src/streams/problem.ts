// What goes wrong between here and a camera's picture: at which step, in words, and what to try.

import { LoginElsewhere, LoginRefused } from '../net/login';
import { withoutSecrets } from '../base/without-secrets';

/** In the order in which they are come to. */
export const steps = ['name', 'reach', 'port', 'sign-in', 'stream', 'decode'] as const;
export type Step = (typeof steps)[number];

export class CameraProblem extends Error {
  constructor(
    readonly step: Step,
    message: string,
    readonly hint: string,
  ) {
    super(withoutSecrets(message));
  }
}

const unknown = new CameraProblem(
  'name',
  'The camera’s host name is unknown on this network.',
  'Check the spelling, or use its IP address.',
);
const unreached = new CameraProblem(
  'reach',
  'The address cannot be reached from here.',
  'Check that the camera has power and is on this network.',
);
const closed = new CameraProblem(
  'port',
  'Nothing answers at the address. Is the camera on?',
  'Check the port, and that the camera has started.',
);
const broken = new CameraProblem(
  'stream',
  'The camera closed the connection.',
  'Try again. If it keeps failing, restart the camera or close other viewers.',
);

const byCode: Readonly<Record<string, CameraProblem>> = {
  ENOTFOUND: unknown,
  EAI_AGAIN: unknown,
  EHOSTUNREACH: unreached,
  ENETUNREACH: unreached,
  ETIMEDOUT: unreached,
  UND_ERR_CONNECT_TIMEOUT: unreached,
  ECONNREFUSED: closed,
  ECONNRESET: broken,
  UND_ERR_SOCKET: broken,
};

/** What an error means for the person who wants the picture. */
export function problemOf(thrown: unknown): CameraProblem {
  if (thrown instanceof CameraProblem) return thrown;
  const error = thrown as Error & { code?: string; cause?: { code?: string } };
  if (error instanceof LoginElsewhere)
    return new CameraProblem('sign-in', error.message, 'Enter the login again in the camera’s settings.');
  if (error instanceof LoginRefused) return refused(error.message);
  const known = byCode[error.cause?.code ?? error.code ?? ''];
  if (known) return known;
  if (error.name === 'TimeoutError') return new CameraProblem('reach', 'The camera did not answer in time.', unreached.hint);
  return new CameraProblem('stream', error.message, 'Check the address of the stream and the camera’s settings.');
}

export const refused = (message: string) =>
  new CameraProblem('sign-in', message, 'Check user name and password. After failed logins many cameras lock for a while.');

export const wrongAnswer = (status: number, words: string) =>
  status === 401 || status === 403
    ? refused(`The camera answered ${status}: it does not accept this name and password.`)
    : new CameraProblem('stream', `The camera answered ${status} ${words}.`, 'Check the path of the address.');

export const notAPicture = (message: string) =>
  new CameraProblem('decode', message, 'Check that the address is that of a picture or a stream of pictures.');
