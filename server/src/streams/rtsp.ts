// What a camera says of its stream by RTSP (RFC 2326), asked before ffmpeg is let at it: ffmpeg would follow it to another machine, and
// answer with the password in the open.

import { connect } from 'node:net';
import { answerable, answerTo, LoginElsewhere, type Login } from '../net/login';
import { CameraProblem, refused } from './problem';

const answerMs = 6000;
const maxBytes = 65_536;

type Answer = { readonly status: number; readonly reason: string; readonly headers: ReadonlyMap<string, string>; readonly body: string };

/**
 * Asks for the description of a stream.
 * @returns it (SDP, RFC 8866)
 * @throws CameraProblem, LoginRefused, or the socket's error: where there is none, or where it lies on another machine
 */
export async function askDescription(url: string, login: Login | undefined, ending: AbortSignal): Promise<string> {
  let answer = await ask(url, undefined, ending);
  if (answer.status === 401 && login) {
    const challenge = answerable(answer.headers.get('www-authenticate') ?? null, login);
    if (!challenge) throw refused('The camera requires an unsupported login method.');
    answer = await ask(url, answerTo(challenge, login, 'DESCRIBE', url), ending);
  }
  const { status, reason, headers, body } = answer;
  if (status === 401 || status === 403) throw refused('The camera does not accept this name and password.');
  const own = new URL(url);
  if (status >= 300 && status < 400) {
    const to = URL.canParse(headers.get('location') ?? '', url) ? new URL(headers.get('location')!, url) : undefined;
    if (to && to.hostname === own.hostname && to.port !== own.port && login) throw new LoginElsewhere();
    throw new CameraProblem(
      'stream',
      `The camera sends to ${to?.host ?? 'another address'}.`,
      'Connect the camera at the address of its stream.',
    );
  }
  if (status !== 200)
    throw new CameraProblem(
      'stream',
      `The camera answered ${status} ${reason}.`,
      'Check the path of the stream, and that the stream is on in the camera.',
    );
  const places = [headers.get('content-base'), headers.get('content-location'), ...controlsIn(body)];
  for (const place of places) {
    if (!place || !/^[a-z][a-z0-9+.-]*:\/\//i.test(place) || !URL.canParse(place)) continue;
    const { hostname, host } = new URL(place);
    if (hostname !== own.hostname)
      throw new CameraProblem(
        'stream',
        `The camera's stream is at ${host}, another machine.`,
        'Connect the camera at the address of its stream.',
      );
  }
  return body;
}

/** Where its parts are, by the description (SDP, RFC 8866; RFC 2326, C.1.1). */
const controlsIn = (sdp: string): string[] =>
  sdp
    .split(/\r?\n/)
    .filter((line) => line.startsWith('a=control:'))
    .map((line) => line.slice('a=control:'.length).trim());

function ask(url: string, authorization: string | undefined, ending: AbortSignal): Promise<Answer> {
  const { hostname, port } = new URL(url);
  return new Promise((resolve, reject) => {
    const socket = connect({ host: hostname.replace(/^\[|\]$/g, ''), port: Number(port) || 554 });
    let text = '';
    const end = (settle: () => void) => {
      clearTimeout(timer);
      ending.removeEventListener('abort', stop);
      socket.destroy();
      settle();
    };
    const stop = () => end(() => reject(ending.reason as Error));
    const timer = setTimeout(() => end(() => reject(new DOMException('The camera did not answer in time.', 'TimeoutError'))), answerMs);
    ending.addEventListener('abort', stop);
    socket.on('error', (error) => end(() => reject(error)));
    socket.on('close', () => end(() => reject(Object.assign(new Error('closed'), { code: 'ECONNRESET' }))));
    socket.on('data', (piece) => {
      text += piece.toString('latin1');
      let answer: Answer | undefined;
      try {
        answer = read(text);
      } catch (thrown) {
        return end(() => reject(thrown as Error));
      }
      if (answer) end(() => resolve(answer));
      else if (text.length > maxBytes)
        end(() =>
          reject(new CameraProblem('stream', 'The camera’s reply is too long and contains no stream.', 'Check the address of the stream.')),
        );
    });
    const lines = [
      `DESCRIBE ${url} RTSP/1.0`,
      'CSeq: 1',
      'Accept: application/sdp',
      'User-Agent: Nibber',
      ...(authorization ? [`Authorization: ${authorization}`] : []),
    ];
    socket.write(`${lines.join('\r\n')}\r\n\r\n`);
    if (ending.aborted) stop();
  });
}

/** An answer once it is whole; undefined before. Several headers of one name become one. */
function read(text: string): Answer | undefined {
  const head = text.indexOf('\r\n\r\n');
  if (head < 0) return undefined;
  const [first, ...lines] = text.slice(0, head).split('\r\n');
  const [, status, reason] = /^RTSP\/1\.\d (\d{3}) ?(.{0,80})/.exec(first!) ?? [];
  if (!status) throw new CameraProblem('stream', 'The device there does not speak RTSP.', 'Check the port and the address of the stream.');
  const headers = new Map<string, string>();
  for (const line of lines) {
    const colon = line.indexOf(':');
    const name = line.slice(0, colon).toLowerCase();
    headers.set(name, [headers.get(name), line.slice(colon + 1).trim()].filter(Boolean).join(', '));
  }
  const length = Number(headers.get('content-length') ?? 0);
  const body = text.slice(head + 4);
  return body.length < length ? undefined : { status: Number(status), reason: reason!, headers, body };
}
