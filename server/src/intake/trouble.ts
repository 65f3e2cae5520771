// What goes wrong between here and a camera's picture: at which step, in words, and what to try.

import { SignInElsewhere, SignInRefused } from '../net/sign-in';
import { withoutSecrets } from '../without-secrets';

/** In the order in which they are come to. */
export const steps = ['name', 'reach', 'port', 'sign-in', 'stream', 'decode'] as const;
export type Step = (typeof steps)[number];

export class CameraTrouble extends Error {
  constructor(
    readonly step: Step,
    message: string,
    readonly remedy: string,
  ) {
    super(withoutSecrets(message));
  }
}

const unknown = new CameraTrouble(
  'name',
  'The name of the camera is not known on this network.',
  'Check how it is written, or use its number address.',
);
const unreached = new CameraTrouble(
  'reach',
  'The address cannot be reached from here.',
  'Check that the camera has power and hangs on this network.',
);
const closed = new CameraTrouble(
  'port',
  'Nothing answers at the address. Is the camera on?',
  'Check the port, and that the camera has started.',
);
const broken = new CameraTrouble(
  'stream',
  'The camera broke the connection off.',
  'Try again; if it stays so, restart the camera or close other viewers.',
);

const byCode: Readonly<Record<string, CameraTrouble>> = {
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

/** What an error means for whoever wants the picture. */
export function troubleOf(thrown: unknown): CameraTrouble {
  if (thrown instanceof CameraTrouble) return thrown;
  const error = thrown as Error & { code?: string; cause?: { code?: string } };
  if (error instanceof SignInElsewhere)
    return new CameraTrouble('sign-in', error.message, 'Give the sign-in again in the settings of the camera.');
  if (error instanceof SignInRefused) return refused(error.message);
  const known = byCode[error.cause?.code ?? error.code ?? ''];
  if (known) return known;
  if (error.name === 'TimeoutError') return new CameraTrouble('reach', 'The camera did not answer in time.', unreached.remedy);
  return new CameraTrouble('stream', error.message, 'Check the address of the stream, and that the camera sends what is asked for.');
}

export const refused = (message: string) =>
  new CameraTrouble('sign-in', message, 'Check name and password. After a few wrong tries many cameras let nobody in for a while.');

export const wrongAnswer = (status: number, words: string) =>
  status === 401 || status === 403
    ? refused(`The camera answered ${status}: it does not accept this name and password.`)
    : new CameraTrouble('stream', `The camera answered ${status} ${words}.`, 'Check the path of the address.');

export const notAPicture = (message: string) =>
  new CameraTrouble('decode', message, 'Check that the address is that of a picture or a stream of pictures.');
