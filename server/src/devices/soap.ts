// Talking to an ONVIF device: SOAP over HTTP, signed with its own time.

import {
  actions,
  addressedTo,
  ask,
  readCapabilities,
  readHasInfrared,
  readInformation,
  readNotifications,
  readProfiles,
  readRelays,
  readSoap,
  readSubscription,
  readTime,
  readUri,
  soapRequest,
  type CameraReport,
  type DeviceInformation,
  type Element,
  type MediaProfile,
} from '@nibber/core/formats';
import { readBody } from '../net/body';
import { fetchSigned, LoginRefused, usernameToken, type Login } from '../net/login';

const answerMs = 6000;
/** Enough for a recorder of a hundred cameras; what is read of it is read at once, while everyone waits. */
const maxBytes = 200_000;
const maxMessages = 50;

export type Device = {
  /** How far its clock is ahead of ours, ms. */
  readonly aheadMs: number;
  information(): Promise<DeviceInformation>;
  capabilities(): Promise<ReturnType<typeof readCapabilities>>;
  profiles(media: string): Promise<MediaProfile[]>;
  streamUri(media: string, profile: string): Promise<string | undefined>;
  snapshotUri(media: string, profile: string): Promise<string | undefined>;
  relays(): Promise<string[]>;
  setRelay(token: string, on: boolean): Promise<void>;
  restart(): Promise<void>;
  /** Whether the lens of a video source has infrared. */
  hasInfrared(imaging: string, source: string): Promise<boolean>;
  /** Makes a pull point, which lives for so long without being pulled from. @returns where it is pulled from */
  subscribe(events: string, seconds: number): Promise<string>;
  /** Waits up to so many seconds for messages. */
  pull(point: string, seconds: number, ending: AbortSignal): Promise<CameraReport[]>;
  unsubscribe(point: string): Promise<void>;
};

/**
 * Opens a device at its device service. Its clock may be asked without a sign-in (ONVIF Core, access classes).
 * @throws Error that says what went wrong, in words
 */
export async function openDevice(address: string, login: Login | undefined): Promise<Device> {
  const asked = Date.now();
  const theirs = readTime(await call(address, undefined, 0, ask.time()));
  const aheadMs = theirs === undefined ? 0 : theirs - (asked + Date.now()) / 2;
  const origin = new URL(address).origin;
  // Where a service is said to be at another port, the sign-in stays here.
  const known = (service: string) => (new URL(service).origin === origin ? login : undefined);
  const own = (service: string, body: string) => {
    const at = sameHost(service, address);
    return call(at, known(at), aheadMs, body);
  };
  const uri = async (service: string, body: string) => {
    const found = readUri(await own(service, body));
    return found === undefined ? undefined : sameHost(found, address);
  };
  return {
    aheadMs,
    information: async () => readInformation(await own(address, ask.information())),
    capabilities: async () => readCapabilities(await own(address, ask.capabilities())),
    profiles: async (media) => readProfiles(await own(media, ask.profiles())),
    streamUri: (media, profile) => uri(media, ask.streamUri(profile)),
    snapshotUri: (media, profile) => uri(media, ask.snapshotUri(profile)),
    relays: async () => readRelays(await own(address, ask.relays())),
    setRelay: async (token, on) => void (await own(address, ask.setRelay(token, on))),
    restart: async () => void (await own(address, ask.restart())),
    hasInfrared: async (imaging, source) => readHasInfrared(await own(imaging, ask.imaging(source))),
    async subscribe(events, seconds) {
      const point = readSubscription(await own(events, ask.subscribe(seconds)));
      if (!point) throw new Error('The device gives no address for its events.');
      return sameHost(point, address);
    },
    pull: async (point, seconds, ending) =>
      readNotifications(
        await call(point, known(point), aheadMs, ask.pull(seconds, maxMessages), {
          headers: addressedTo(point, actions.pull),
          seconds,
          ending,
        }),
      ).slice(0, maxMessages),
    unsubscribe: async (point) =>
      void (await call(point, known(point), aheadMs, ask.unsubscribe(), { headers: addressedTo(point, actions.unsubscribe) })),
  };
}

/**
 * Devices behind address translation report the address they know themselves by, which no one else can reach; and what a device answers
 * must not send us to another machine.
 */
export function sameHost(notified: string, asked: string): string {
  const [to, own] = [new URL(notified), new URL(asked)];
  to.hostname = own.hostname;
  // What stands before the @ would travel on into the site file.
  [to.username, to.password] = ['', ''];
  return to.href;
}

/** `seconds`: how long it may take over its answer beside what any may take. */
type CallOptions = { readonly headers?: string; readonly seconds?: number; readonly ending?: AbortSignal };

async function call(
  address: string,
  login: Login | undefined,
  aheadMs: number,
  body: string,
  { headers = '', seconds = 0, ending }: CallOptions = {},
): Promise<Element> {
  const token = login && usernameToken(login, new Date(Date.now() + aheadMs).toISOString());
  // One controller for both ends: a signal combined of several may be garbage before it has fired.
  const stopping = new AbortController();
  const stop = () => stopping.abort(ending?.reason);
  const timer = setTimeout(
    () => stopping.abort(new DOMException('The camera did not answer in time.', 'TimeoutError')),
    answerMs + seconds * 1000,
  );
  ending?.addEventListener('abort', stop);
  if (ending?.aborted) stop();
  try {
    const response = await fetchSigned(address, login, {
      method: 'POST',
      headers: { 'content-type': 'application/soap+xml; charset=utf-8' },
      body: soapRequest(body, token, headers),
      signal: stopping.signal,
    });
    return await bodyOf(response);
  } finally {
    clearTimeout(timer);
    ending?.removeEventListener('abort', stop);
  }
}

async function bodyOf(response: Response): Promise<Element> {
  if (response.status === 401) throw new LoginRefused('The camera does not accept this name and password.');
  const text = (await readBody(response, maxBytes, answerMs)).toString('utf8');
  if (!text.trim()) throw new Error(`The camera answered ${response.status} without content.`);
  const answer = readSoap(text);
  if (answer.ok) return answer.body;
  if (answer.problem.isSignIn) throw new LoginRefused('The camera does not accept this name and password.');
  throw new Error(`The camera refused: ${answer.problem.reason}.`);
}
