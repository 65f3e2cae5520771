// What any ONVIF client asks a device first: its services, what each of them can do, its lenses, its scopes, what it tells of
// (ONVIF Core Specification, 8.1 to 8.3 and 9; Media Service Specification, 5.3).

import type { DeviceSettings } from './park';

const services = {
  device_service: 'http://www.onvif.org/ver10/device/wsdl',
  media: 'http://www.onvif.org/ver10/media/wsdl',
  events: 'http://www.onvif.org/ver10/events/wsdl',
  imaging: 'http://www.onvif.org/ver20/imaging/wsdl',
  deviceio: 'http://www.onvif.org/ver10/deviceIO/wsdl',
} as const;
type Service = keyof typeof services;

/** Asked of a device by anyone (access class PRE_AUTH). */
export const askedByAnybody: readonly string[] = ['GetSystemDateAndTime', 'GetServices', 'GetServiceCapabilities'];

const capabilities: { readonly [S in Service]: (settings: DeviceSettings) => string } = {
  device_service: () =>
    '<tds:Capabilities><tds:Network IPFilter="false" ZeroConfiguration="false" IPVersion6="false" DynDNS="false"/><tds:Security UsernameToken="true" HttpDigest="true"/><tds:System DiscoveryResolve="false" DiscoveryBye="false" RemoteDiscovery="false" SystemBackup="false" FirmwareUpgrade="false"/></tds:Capabilities>',
  media: (settings) =>
    `<trt:Capabilities SnapshotUri="true" Rotation="false" VideoSourceMode="false" OSD="false"><trt:ProfileCapabilities MaximumNumberOfProfiles="${settings.channels.length * 2}"/><trt:StreamingCapabilities RTPMulticast="false" RTP_TCP="false" RTP_RTSP_TCP="true"/></trt:Capabilities>`,
  events: () =>
    '<tev:Capabilities WSSubscriptionPolicySupport="false" WSPausableSubscriptionManagerInterfaceSupport="false" MaxPullPoints="8"/>',
  imaging: () => '<timg:Capabilities ImageStabilization="false"/>',
  deviceio: (settings) =>
    `<tmd:Capabilities xmlns:tmd="${services.deviceio}" VideoSources="${settings.channels.length}" AudioSources="${settings.microphones}" AudioOutputs="${settings.speakers}" RelayOutputs="${settings.relays.length}"/>`,
};
const prefixes: { readonly [S in Service]: string } = {
  device_service: 'tds',
  media: 'trt',
  events: 'tev',
  imaging: 'timg',
  deviceio: 'tds',
};

export function firstQuestions(settings: DeviceSettings, base: () => string) {
  const serviceOf = (path: string): Service => (Object.keys(services) as Service[]).find((s) => path.endsWith(`/${s}`)) ?? 'device_service';
  return {
    GetServices: (body: string) => {
      const isAsked = /IncludeCapability[^>]*>\s*(true|1)\s*</.test(body);
      const one = (s: Service) =>
        `<tds:Service><tds:Namespace>${services[s]}</tds:Namespace><tds:XAddr>${base()}/onvif/${s}</tds:XAddr>${isAsked ? `<tds:Capabilities>${capabilities[s](settings)}</tds:Capabilities>` : ''}<tds:Version><tt:Major>2</tt:Major><tt:Minor>6</tt:Minor></tds:Version></tds:Service>`;
      return `<tds:GetServicesResponse>${(Object.keys(services) as Service[]).map(one).join('')}</tds:GetServicesResponse>`;
    },
    GetServiceCapabilities: (_body: string, path: string) => {
      const service = serviceOf(path);
      const name = `${prefixes[service]}:GetServiceCapabilitiesResponse`;
      return `<${name}>${capabilities[service](settings)}</${name}>`;
    },
    GetVideoSources: () =>
      `<trt:GetVideoSourcesResponse>${settings.channels.map((_, i) => `<trt:VideoSources token="lens-${i + 1}"><tt:Framerate>5</tt:Framerate><tt:Resolution><tt:Width>1920</tt:Width><tt:Height>1080</tt:Height></tt:Resolution></trt:VideoSources>`).join('')}</trt:GetVideoSourcesResponse>`,
    GetScopes: () =>
      `<tds:GetScopesResponse>${['type/video_encoder', 'Profile/Streaming', `name/${encodeURIComponent(settings.model)}`, `hardware/${encodeURIComponent(settings.model)}`].map((scope) => `<tds:Scopes><tt:ScopeDef>Fixed</tt:ScopeDef><tt:ScopeItem>onvif://www.onvif.org/${scope}</tt:ScopeItem></tds:Scopes>`).join('')}</tds:GetScopesResponse>`,
    GetEventProperties: () => {
      const told = (name: string) =>
        `<tns1:VideoSource xmlns:tns1="http://www.onvif.org/ver10/topics"><${name} wstop:topic="true"><tt:MessageDescription IsProperty="true"><tt:Source><tt:SimpleItemDescription Name="Source" Type="tt:ReferenceToken"/></tt:Source><tt:Data><tt:SimpleItemDescription Name="State" Type="xs:boolean"/></tt:Data></tt:MessageDescription></${name}></tns1:VideoSource>`;
      return `<tev:GetEventPropertiesResponse xmlns:xs="http://www.w3.org/2001/XMLSchema" xmlns:wstop="http://docs.oasis-open.org/wsn/t-1"><tev:TopicNamespaceLocation>http://www.onvif.org/onvif/ver10/topics/topicns.xml</tev:TopicNamespaceLocation><wsnt:FixedTopicSet>true</wsnt:FixedTopicSet><wstop:TopicSet>${['MotionAlarm', 'ImageTooDark'].map(told).join('')}</wstop:TopicSet><wsnt:TopicExpressionDialect>http://www.onvif.org/ver10/tev/topicExpression/ConcreteSet</wsnt:TopicExpressionDialect><tev:MessageContentFilterDialect>http://www.onvif.org/ver10/tev/messageContentFilter/ItemFilter</tev:MessageContentFilterDialect><tev:MessageContentSchemaLocation>http://www.onvif.org/onvif/ver10/schema/onvif.xsd</tev:MessageContentSchemaLocation></tev:GetEventPropertiesResponse>`;
    },
  };
}
