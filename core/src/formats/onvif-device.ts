// What is asked of an ONVIF device over SOAP, and what it answers. Source: ONVIF Core Specification and its service definitions
// (devicemgmt.wsdl, media.wsdl, event.wsdl, deviceio.wsdl); sign-in by WS-Security UsernameToken Profile 1.0.

import type { Instant } from '../time';
import { refuse } from './limits';
import { allOf, childOf, readXml, xmlText, type Element } from './xml';

/** A sign-in as it travels: the digest is Base64(SHA-1(nonce + created + password)), the nonce Base64. */
export type UsernameToken = { readonly username: string; readonly digest: string; readonly nonce: string; readonly created: string };

const security = (t: UsernameToken) =>
  '<wsse:Security s:mustUnderstand="1" xmlns:wsse="http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd" xmlns:wsu="http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd">' +
  `<wsse:UsernameToken><wsse:Username>${xmlText(t.username)}</wsse:Username>` +
  `<wsse:Password Type="http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-username-token-profile-1.0#PasswordDigest">${xmlText(t.digest)}</wsse:Password>` +
  `<wsse:Nonce EncodingType="http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-soap-message-security-1.0#Base64Binary">${xmlText(t.nonce)}</wsse:Nonce>` +
  `<wsu:Created>${xmlText(t.created)}</wsu:Created></wsse:UsernameToken></wsse:Security>`;

/** A whole request. @param headers further SOAP headers, as the address of a subscription */
export const soapRequest = (body: string, token?: UsernameToken, headers = ''): string =>
  '<?xml version="1.0" encoding="UTF-8"?><s:Envelope xmlns:s="http://www.w3.org/2003/05/soap-envelope">' +
  `<s:Header>${token ? security(token) : ''}${headers}</s:Header><s:Body>${body}</s:Body></s:Envelope>`;

const device = (name: string, inner = '') => `<${name} xmlns="http://www.onvif.org/ver10/device/wsdl">${inner}</${name}>`;
const media = (name: string, inner = '') =>
  `<${name} xmlns="http://www.onvif.org/ver10/media/wsdl" xmlns:tt="http://www.onvif.org/ver10/schema">${inner}</${name}>`;

const events = (name: string, inner = '') => `<${name} xmlns="http://www.onvif.org/ver10/events/wsdl">${inner}</${name}>`;

/** WS-Addressing headers, by which a request finds its subscription (ONVIF Core, event handling; action URIs of event.wsdl). */
export const addressedTo = (address: string, action: string): string =>
  '<wsa:Action xmlns:wsa="http://www.w3.org/2005/08/addressing" s:mustUnderstand="1">' +
  `${action}</wsa:Action><wsa:To xmlns:wsa="http://www.w3.org/2005/08/addressing" s:mustUnderstand="1">${xmlText(address)}</wsa:To>`;

export const actions = {
  pull: 'http://www.onvif.org/ver10/events/wsdl/PullPointSubscription/PullMessagesRequest',
  unsubscribe: 'http://docs.oasis-open.org/wsn/bw-2/SubscriptionManager/UnsubscribeRequest',
} as const;

/** The requests, as bodies. */
export const ask = {
  time: () => device('GetSystemDateAndTime'),
  information: () => device('GetDeviceInformation'),
  capabilities: () => device('GetCapabilities', '<Category>All</Category>'),
  relays: () => device('GetRelayOutputs'),
  setRelay: (token: string, on: boolean) =>
    device(
      'SetRelayOutputState',
      `<RelayOutputToken>${xmlText(token)}</RelayOutputToken><LogicalState>${on ? 'active' : 'inactive'}</LogicalState>`,
    ),
  restart: () => device('SystemReboot'),
  profiles: () => media('GetProfiles'),
  streamUri: (profile: string) =>
    media(
      'GetStreamUri',
      '<StreamSetup><tt:Stream>RTP-Unicast</tt:Stream><tt:Transport><tt:Protocol>RTSP</tt:Protocol></tt:Transport></StreamSetup>' +
        `<ProfileToken>${xmlText(profile)}</ProfileToken>`,
    ),
  imaging: (source: string) =>
    `<GetImagingSettings xmlns="http://www.onvif.org/ver20/imaging/wsdl"><VideoSourceToken>${xmlText(source)}</VideoSourceToken></GetImagingSettings>`,
  subscribe: (seconds: number) => events('CreatePullPointSubscription', `<InitialTerminationTime>PT${seconds}S</InitialTerminationTime>`),
  pull: (seconds: number, max: number) => events('PullMessages', `<Timeout>PT${seconds}S</Timeout><MessageLimit>${max}</MessageLimit>`),
  unsubscribe: () => '<Unsubscribe xmlns="http://docs.oasis-open.org/wsn/b-2"/>',
  snapshotUri: (profile: string) => media('GetSnapshotUri', `<ProfileToken>${xmlText(profile)}</ProfileToken>`),
} as const;

/** A device's refusal. */
export type SoapFault = { readonly code: string; readonly reason: string; readonly isSignIn: boolean };
type SoapAnswer = { readonly ok: true; readonly body: Element } | { readonly ok: false; readonly problem: SoapFault };

/** @throws Problem 'bad-input' with line and column where it is no SOAP answer */
export function readSoap(text: string): SoapAnswer {
  const root = readXml(text);
  const body = root.name === 'Envelope' ? childOf(root, 'Body') : undefined;
  const first = body?.children[0];
  if (!body || !first) refuse(root.place, `is ${root.name}`, 'a SOAP Envelope whose Body has an answer');
  if (first.name !== 'Fault') return { ok: true, body: first };
  // SOAP 1.2 has Code, Subcode and Reason; 1.1 has faultcode and faultstring.
  const values = allOf(first, 'Value').map((v) => v.text.trim());
  const code = values.at(-1) ?? childOf(first, 'faultcode')?.text.trim() ?? '';
  const reason = allOf(first, 'Text')[0]?.text.trim() ?? childOf(first, 'faultstring')?.text.trim() ?? 'no reason given';
  const isSignIn = values.concat(code).some((v) => /NotAuthorized|FailedAuthentication|InvalidSecurityToken|InvalidSecurity$/.test(v));
  return { ok: false, problem: { code: code.replace(/^.*:/, ''), reason, isSignIn } };
}

const textOf = (element: Element | undefined, ...path: readonly string[]) => childOf(element, ...path)?.text.trim() ?? '';

/** The device's clock; undefined where it gives no UTC time. */
export function readTime(body: Element): Instant | undefined {
  const utc = childOf(body, 'SystemDateAndTime', 'UTCDateTime');
  const n = (a: string, b: string) => Number(textOf(utc, a, b) || NaN);
  const at = Date.UTC(
    n('Date', 'Year'),
    n('Date', 'Month') - 1,
    n('Date', 'Day'),
    n('Time', 'Hour'),
    n('Time', 'Minute'),
    n('Time', 'Second'),
  );
  return Number.isFinite(at) ? at : undefined;
}

export type DeviceInformation = { readonly maker: string; readonly model: string; readonly firmware: string };
export const readInformation = (body: Element): DeviceInformation => ({
  maker: textOf(body, 'Manufacturer'),
  model: textOf(body, 'Model'),
  firmware: textOf(body, 'FirmwareVersion'),
});

/** Where its pictures are asked for, and numbers of parts, as `GetCapabilities` tells them. */
type DeviceCapabilities = {
  readonly media: string | undefined;
  /** Where its imaging is asked about, and its events. */
  readonly imaging: string | undefined;
  readonly events: string | undefined;
  readonly relays: number;
  readonly audioOutputs: number;
  readonly audioSources: number;
};

export function readCapabilities(body: Element): DeviceCapabilities {
  const all = childOf(body, 'Capabilities');
  const io = childOf(all, 'Extension', 'DeviceIO');
  const count = (name: string) => Number(textOf(io, name)) || 0;
  return {
    media: textOf(all, 'Media', 'XAddr') || undefined,
    imaging: textOf(all, 'Imaging', 'XAddr') || undefined,
    events: textOf(all, 'Events', 'XAddr') || undefined,
    relays: Math.max(count('RelayOutputs'), Number(textOf(all, 'Device', 'IO', 'RelayOutputs')) || 0),
    audioOutputs: count('AudioOutputs'),
    audioSources: count('AudioSources'),
  };
}

/** A way in which a picture is sent. `source` is the lens it comes from: a recorder has several. */
export type MediaProfile = {
  readonly token: string;
  readonly name: string;
  readonly source: string;
  readonly encoding: string;
  readonly width: number;
  readonly height: number;
};

export const readProfiles = (body: Element): MediaProfile[] =>
  allOf(body, 'Profiles').flatMap((p) => {
    const encoder = childOf(p, 'VideoEncoderConfiguration');
    const token = p.attributes.token;
    if (!encoder || !token) return [];
    return [
      {
        token,
        name: textOf(p, 'Name') || token,
        source: textOf(p, 'VideoSourceConfiguration', 'SourceToken'),
        encoding: textOf(encoder, 'Encoding'),
        width: Number(textOf(encoder, 'Resolution', 'Width')) || 0,
        height: Number(textOf(encoder, 'Resolution', 'Height')) || 0,
      },
    ];
  });

export const readUri = (body: Element): string | undefined => textOf(body, 'MediaUri', 'Uri') || undefined;

/** Where a subscription is pulled from; undefined where the answer names no place. */
export const readSubscription = (body: Element): string | undefined => textOf(body, 'SubscriptionReference', 'Address') || undefined;

/**
 * Whether a lens has an infrared filter that comes off at night: what such a camera then sees by is infrared (common practice).
 * ONVIF Imaging, ImagingSettings20/IrCutFilter.
 */
export const readHasInfrared = (body: Element): boolean => ['ON', 'OFF', 'AUTO'].includes(textOf(body, 'ImagingSettings', 'IrCutFilter'));

export const readRelays = (body: Element): string[] => allOf(body, 'RelayOutputs').flatMap((r) => r.attributes.token ?? []);
