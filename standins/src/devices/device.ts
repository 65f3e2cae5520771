// A stand-in camera or recorder that speaks ONVIF: SOAP over HTTP, stills behind Digest, streams by RTSP.

import { createHash, randomUUID } from 'node:crypto';
import { Router, text } from 'express';
import sharp from 'sharp';
import { writeOnvifMetadata } from '@nibber/core/formats';
import type { TakePicture } from '../cameras/camera';
import { cast } from '../cameras/cast';
import type { Placed } from '../cameras/compose';
import { pullPoints } from './events';
import { askedByAnybody, firstQuestions } from './first-questions';
import { challenge, isLetIn, isTokenRight } from './guard';
import type { DeviceFault, DeviceSettings } from './park';
import type { StreamSource } from './rtsp';

export type Device = {
  readonly router: Router;
  readonly name: string;
  readonly id: string;
  readonly settings: DeviceSettings;
  /** Streams by path, for the RTSP server. */
  readonly streams: ReadonlyMap<string, StreamSource>;
  readonly relays: () => Readonly<Record<string, boolean>>;
  readonly restarts: () => number;
  setFault(fault: DeviceFault): void;
  isSilent(): boolean;
  close(): void;
};

export type DeviceNeeds = {
  readonly name: string;
  readonly base: () => string;
  readonly rtsp: () => string;
  readonly now: () => number;
  /** Who shows in the picture of a channel, where. */
  readonly inView: (channel: number) => Promise<readonly Placed[]>;
};

const clockOffMs = 5 * 60_000;
const profileNames = { low: 'watching', full: 'stills' } as const;
const sizes = { low: [960, 540], full: [1920, 1080] } as const;

/** @param pictures one for each channel that has a lens */
export function onvifDevice(settings: DeviceSettings, place: DeviceNeeds, pictures: readonly (TakePicture | null)[]): Device {
  let fault: DeviceFault = 'none';
  let restarts = 0;
  let restarting = 0;
  const relays: Record<string, boolean> = Object.fromEntries(settings.relays.map((r) => [r, false]));
  const now = () => place.now() + (fault === 'clock off' ? clockOffMs : 0);
  const isSilent = () => fault === 'silent' || Date.now() < restarting;
  const keeper = {
    get user() {
      return settings.user;
    },
    get password() {
      return fault === 'refuses' ? randomUUID() : settings.password;
    },
  };
  const profiles = settings.channels.flatMap((camera, i) =>
    (['low', 'full'] as const).map((stream) => ({ token: `p${i + 1}-${stream}`, camera, channel: i, stream })),
  );
  const router = Router();
  router.use((_request, response, next) => (isSilent() ? void response.destroy() : next()));

  const points = pullPoints({
    now,
    address: (id) => `${place.base()}/onvif/pull-${id}`,
    states: async () =>
      (
        await Promise.all(
          settings.channels.map(async (lens, i) => {
            if (lens === null) return [];
            const isCovered = fault === 'covered';
            const source = `lens-${i + 1}`;
            return [
              { kind: 'motion' as const, source, isActive: !isCovered && (await place.inView(i)).length > 0 },
              { kind: 'too-dark' as const, source, isActive: isCovered },
            ];
          }),
        )
      ).flat(),
  });
  const answers: Record<string, (body: string, path: string) => string | Fault | Promise<string | Fault>> = {
    GetSystemDateAndTime: () => {
      const at = new Date(now());
      const time = `<tt:Time><tt:Hour>${at.getUTCHours()}</tt:Hour><tt:Minute>${at.getUTCMinutes()}</tt:Minute><tt:Second>${at.getUTCSeconds()}</tt:Second></tt:Time>`;
      const date = `<tt:Date><tt:Year>${at.getUTCFullYear()}</tt:Year><tt:Month>${at.getUTCMonth() + 1}</tt:Month><tt:Day>${at.getUTCDate()}</tt:Day></tt:Date>`;
      return `<tds:GetSystemDateAndTimeResponse><tds:SystemDateAndTime><tt:DateTimeType>NTP</tt:DateTimeType><tt:DaylightSavings>false</tt:DaylightSavings><tt:UTCDateTime>${time}${date}</tt:UTCDateTime></tds:SystemDateAndTime></tds:GetSystemDateAndTimeResponse>`;
    },
    GetDeviceInformation: () =>
      `<tds:GetDeviceInformationResponse><tds:Manufacturer>${settings.maker}</tds:Manufacturer><tds:Model>${settings.model}</tds:Model><tds:FirmwareVersion>${settings.firmware}</tds:FirmwareVersion><tds:SerialNumber>${place.name}</tds:SerialNumber><tds:HardwareId>1</tds:HardwareId></tds:GetDeviceInformationResponse>`,
    GetCapabilities: () => {
      const at = (service: string) => `<tt:XAddr>${place.base()}/onvif/${service}</tt:XAddr>`;
      return (
        `<tds:GetCapabilitiesResponse><tds:Capabilities><tt:Analytics>${at('analytics')}<tt:RuleSupport>false</tt:RuleSupport><tt:AnalyticsModuleSupport>false</tt:AnalyticsModuleSupport></tt:Analytics><tt:Device>${at('device_service')}<tt:IO><tt:RelayOutputs>${settings.relays.length}</tt:RelayOutputs></tt:IO></tt:Device>` +
        `<tt:Events>${at('events')}<tt:WSSubscriptionPolicySupport>false</tt:WSSubscriptionPolicySupport><tt:WSPullPointSupport>true</tt:WSPullPointSupport><tt:WSPausableSubscriptionManagerInterfaceSupport>false</tt:WSPausableSubscriptionManagerInterfaceSupport></tt:Events>` +
        `<tt:Imaging>${at('imaging')}</tt:Imaging><tt:Media>${at('media')}</tt:Media>` +
        `<tt:Extension><tt:DeviceIO>${at('deviceio')}<tt:VideoSources>${settings.channels.length}</tt:VideoSources><tt:VideoOutputs>0</tt:VideoOutputs><tt:AudioSources>${settings.microphones}</tt:AudioSources><tt:AudioOutputs>${settings.speakers}</tt:AudioOutputs><tt:RelayOutputs>${settings.relays.length}</tt:RelayOutputs></tt:DeviceIO></tt:Extension></tds:Capabilities></tds:GetCapabilitiesResponse>`
      );
    },
    GetProfiles: () =>
      `<trt:GetProfilesResponse>${profiles
        .map(
          ({ token, channel, stream }) =>
            `<trt:Profiles token="${token}" fixed="true"><tt:Name>${profileNames[stream]} ${channel + 1}</tt:Name><tt:VideoSourceConfiguration token="vs${channel + 1}"><tt:Name>lens</tt:Name><tt:UseCount>2</tt:UseCount><tt:SourceToken>lens-${channel + 1}</tt:SourceToken></tt:VideoSourceConfiguration>` +
            `<tt:VideoEncoderConfiguration token="ve-${token}"><tt:Name>${stream}</tt:Name><tt:UseCount>1</tt:UseCount><tt:Encoding>H264</tt:Encoding><tt:Resolution><tt:Width>${sizes[stream][0]}</tt:Width><tt:Height>${sizes[stream][1]}</tt:Height></tt:Resolution></tt:VideoEncoderConfiguration>` +
            `<tt:MetadataConfiguration token="m${channel + 1}"><tt:Name>own detection</tt:Name><tt:UseCount>2</tt:UseCount><tt:Analytics>true</tt:Analytics></tt:MetadataConfiguration></trt:Profiles>`,
        )
        .join('')}</trt:GetProfilesResponse>`,
    GetStreamUri: (body) => uri('GetStreamUriResponse', body, (p) => `${place.rtsp()}/${place.name}/${p.channel + 1}/${p.stream}`),
    GetSnapshotUri: (body) => uri('GetSnapshotUriResponse', body, (p) => `${place.base()}/still/${p.channel + 1}/${p.stream}`),
    GetRelayOutputs: () =>
      `<tds:GetRelayOutputsResponse>${settings.relays.map((r) => `<tds:RelayOutputs token="${r}"><tt:Properties><tt:Mode>Bistable</tt:Mode><tt:DelayTime>PT0S</tt:DelayTime><tt:IdleState>open</tt:IdleState></tt:Properties></tds:RelayOutputs>`).join('')}</tds:GetRelayOutputsResponse>`,
    SetRelayOutputState: (body) => {
      const relay = valueOf(body, 'RelayOutputToken');
      if (!(relay in relays)) return { subcode: 'ter:RelayToken', reason: `Unknown relay token ${relay}` };
      relays[relay] = valueOf(body, 'LogicalState') === 'active';
      return '<tds:SetRelayOutputStateResponse/>';
    },
    SystemReboot: () => {
      restarts++;
      restarting = Date.now() + restartMs;
      return '<tds:SystemRebootResponse><tds:Message>Back in a moment</tds:Message></tds:SystemRebootResponse>';
    },
    CreatePullPointSubscription: () => points.open(),
    PullMessages: (body, path) => points.pull(path, body) ?? gone,
    Unsubscribe: (_body, path) => points.close(path) ?? gone,
    ...firstQuestions(settings, place.base),
    GetImagingSettings: () =>
      '<timg:GetImagingSettingsResponse><timg:ImagingSettings><tt:Brightness>50</tt:Brightness><tt:IrCutFilter>AUTO</tt:IrCutFilter></timg:ImagingSettings></timg:GetImagingSettingsResponse>',
  };
  const uri = (name: string, body: string, address: (p: (typeof profiles)[number]) => string): string | Fault => {
    const profile = profiles.find((p) => p.token === valueOf(body, 'ProfileToken'));
    if (!profile) return { subcode: 'ter:NoProfile', reason: 'Profile not found' };
    return `<trt:${name}><trt:MediaUri><tt:Uri>${address(profile)}</tt:Uri><tt:InvalidAfterConnect>false</tt:InvalidAfterConnect><tt:InvalidAfterReboot>false</tt:InvalidAfterReboot><tt:Timeout>PT0S</tt:Timeout></trt:MediaUri></trt:${name}>`;
  };

  router.post(/^\/onvif\/[\w-]+$/, text({ type: () => true, limit: '200kb' }), async (request, response) => {
    const body = String(request.body);
    const asked = /<(?:\w+:)?Body[^>]*>\s*<(?:\w+:)?(\w+)/.exec(body)?.[1] ?? '';
    response.type('application/soap+xml');
    if (fault === 'rubbish') return void response.send('<html><body>It works!</body></html>');
    if (!askedByAnybody.includes(asked) && !isTokenRight(body, keeper, now()))
      return void response.status(400).send(envelope(faultOf({ subcode: 'ter:NotAuthorized', reason: 'Sender not authorized' })));
    const answer = (await answers[asked]?.(body, request.path)) ?? { subcode: 'ter:ActionNotSupported', reason: 'Action not supported' };
    const failed = typeof answer !== 'string';
    response.status(failed ? 400 : 200).send(envelope(failed ? faultOf(answer) : answer));
  });
  router.get('/still/:channel/:stream', async (request, response) => {
    if (!isLetIn(request.headers.authorization, 'GET', keeper)) return void response.status(401).set('www-authenticate', challenge).end();
    const take = pictures[Number(request.params.channel) - 1];
    if (!take || fault === 'no stream') return void response.status(503).end();
    if (fault === 'rubbish') return void response.type('image/jpeg').send(Buffer.alloc(4000, 'rubbish '));
    response.type('image/jpeg').send(fault === 'covered' ? await black() : await take(request.params.stream === 'low' ? 'low' : 'full'));
  });

  const metadataOf = async (channel: number) => {
    const seen = fault === 'covered' ? [] : await place.inView(channel);
    const objects = seen.map(({ figure, box }) => ({ ...meanings[cast[figure].kind], score: 0.82, box, track: figure }));
    return writeOnvifMetadata([{ at: now(), camera: place.name, objects }]);
  };
  const streams = new Map<string, StreamSource>();
  for (const { channel, stream } of profiles) {
    const take = pictures[channel];
    const source: StreamSource = {
      keeper,
      isWell: () => take !== null && fault !== 'no stream',
      hasSound: settings.microphones > 0,
      take: () => (fault === 'covered' ? black() : take!(stream)),
      stream,
      metadata: () => metadataOf(channel),
    };
    streams.set(`/${place.name}/${channel + 1}/${stream}`, source);
  }
  return {
    router,
    name: place.name,
    get id() {
      return idOf(place.base());
    },
    settings,
    streams,
    relays: () => relays,
    restarts: () => restarts,
    setFault: (next) => (fault = next),
    isSilent,
    close: points.end,
  };
}

const restartMs = 5000;

const meanings = {
  person: { class: 'person' },
  dog: { class: 'pet', type: 'dog' },
  car: { class: 'vehicle', type: 'car' },
  parcel: { class: 'parcel' },
  sign: { class: 'other' },
} as const;

const gone = { subcode: 'ter:InvalidArgVal', reason: 'No such subscription' };

/** What a lens sees that something was hung over. */
let dark: Promise<Buffer> | undefined;
const black = () =>
  (dark ??= sharp({ create: { width: 960, height: 540, channels: 3, background: '#020202' } })
    .jpeg()
    .toBuffer());

type Fault = { readonly subcode: string; readonly reason: string };

const valueOf = (body: string, name: string) => new RegExp(`<(?:\\w+:)?${name}[^>]*>([^<]*)<`).exec(body)?.[1] ?? '';

const envelope = (body: string) =>
  '<?xml version="1.0" encoding="UTF-8"?><s:Envelope xmlns:s="http://www.w3.org/2003/05/soap-envelope" xmlns:tds="http://www.onvif.org/ver10/device/wsdl" xmlns:trt="http://www.onvif.org/ver10/media/wsdl" xmlns:timg="http://www.onvif.org/ver20/imaging/wsdl" xmlns:tev="http://www.onvif.org/ver10/events/wsdl" xmlns:wsnt="http://docs.oasis-open.org/wsn/b-2" xmlns:wsa="http://www.w3.org/2005/08/addressing" xmlns:tt="http://www.onvif.org/ver10/schema" xmlns:ter="http://www.onvif.org/ver10/error">' +
  `<s:Body>${body}</s:Body></s:Envelope>`;

const faultOf = ({ subcode, reason }: Fault) =>
  `<s:Fault><s:Code><s:Value>s:Sender</s:Value><s:Subcode><s:Value>${subcode}</s:Value></s:Subcode></s:Code><s:Reason><s:Text xml:lang="en">${reason}</s:Text></s:Reason></s:Fault>`;

/** A device keeps its id when it is started again at the same address. */
function idOf(address: string): string {
  const hex = createHash('sha256').update(address).digest('hex');
  return `urn:uuid:${hex.slice(0, 8)}-${hex.slice(8, 12)}-5${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
