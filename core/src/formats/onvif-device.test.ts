import {
  actions,
  addressedTo,
  ask,
  readHasInfrared,
  readNotifications,
  readSubscription,
  readCapabilities,
  readInformation,
  readProbeMatches,
  readProfiles,
  readRelays,
  readSoap,
  readTime,
  readUri,
  soapRequest,
  writeProbe,
} from '.';
import { allOf, childOf, readXml } from './xml';

// Structure and names of the answers as in the service definitions of ONVIF (devicemgmt.wsdl, media.wsdl) and the examples of the ONVIF
// Core Specification and Application Programmer's Guide; the values are our own.
const soap = (body: string) =>
  `<?xml version="1.0" encoding="UTF-8"?><SOAP-ENV:Envelope xmlns:SOAP-ENV="http://www.w3.org/2003/05/soap-envelope" xmlns:tds="http://www.onvif.org/ver10/device/wsdl" xmlns:trt="http://www.onvif.org/ver10/media/wsdl" xmlns:tt="http://www.onvif.org/ver10/schema" xmlns:ter="http://www.onvif.org/ver10/error"><SOAP-ENV:Header/><SOAP-ENV:Body>${body}</SOAP-ENV:Body></SOAP-ENV:Envelope>`;
const bodyOf = (text: string) => {
  const answer = readSoap(soap(text));
  if (!answer.ok) throw new Error(answer.problem.reason);
  return answer.body;
};

test('a clock is read in UTC, whatever the local one says', () => {
  const at = (date: string) =>
    readTime(
      bodyOf(
        `<tds:GetSystemDateAndTimeResponse><tds:SystemDateAndTime><tt:DateTimeType>NTP</tt:DateTimeType><tt:DaylightSavings>true</tt:DaylightSavings><tt:TimeZone><tt:TZ>CET-1CEST,M3.5.0,M10.5.0/3</tt:TZ></tt:TimeZone>${date}</tds:SystemDateAndTime></tds:GetSystemDateAndTimeResponse>`,
      ),
    );
  const time = (hour: number) =>
    `<tt:Time><tt:Hour>${hour}</tt:Hour><tt:Minute>5</tt:Minute><tt:Second>9</tt:Second></tt:Time><tt:Date><tt:Year>2026</tt:Year><tt:Month>6</tt:Month><tt:Day>1</tt:Day></tt:Date>`;
  expect(at(`<tt:UTCDateTime>${time(19)}</tt:UTCDateTime><tt:LocalDateTime>${time(21)}</tt:LocalDateTime>`)).toBe(
    Date.parse('2026-06-01T19:05:09Z'),
  );
  expect(at('')).toBeUndefined();
});

test('what a device is and has', () => {
  const about =
    '<tds:GetDeviceInformationResponse><tds:Manufacturer>Reedmace</tds:Manufacturer><tds:Model>RM-1</tds:Model><tds:FirmwareVersion>1.2</tds:FirmwareVersion><tds:SerialNumber>7</tds:SerialNumber><tds:HardwareId>2</tds:HardwareId></tds:GetDeviceInformationResponse>';
  expect(readInformation(bodyOf(about))).toEqual({ maker: 'Reedmace', model: 'RM-1', firmware: '1.2' });
  const has = (io: string, extension: string) =>
    readCapabilities(
      bodyOf(
        `<tds:GetCapabilitiesResponse><tds:Capabilities><tt:Device><tt:XAddr>http://h/onvif/device_service</tt:XAddr>${io}</tt:Device><tt:Media><tt:XAddr>http://h/onvif/media</tt:XAddr><tt:StreamingCapabilities><tt:RTPMulticast>false</tt:RTPMulticast></tt:StreamingCapabilities></tt:Media>${extension}</tds:Capabilities></tds:GetCapabilitiesResponse>`,
      ),
    );
  expect(has('<tt:IO><tt:InputConnectors>1</tt:InputConnectors><tt:RelayOutputs>2</tt:RelayOutputs></tt:IO>', '')).toEqual({
    media: 'http://h/onvif/media',
    imaging: undefined,
    events: undefined,
    relays: 2,
    audioOutputs: 0,
    audioSources: 0,
  });
  expect(
    has(
      '',
      '<tt:Extension><tt:DeviceIO><tt:XAddr>http://h/io</tt:XAddr><tt:VideoSources>1</tt:VideoSources><tt:VideoOutputs>0</tt:VideoOutputs><tt:AudioSources>1</tt:AudioSources><tt:AudioOutputs>1</tt:AudioOutputs><tt:RelayOutputs>1</tt:RelayOutputs></tt:DeviceIO></tt:Extension>',
    ),
  ).toMatchObject({ relays: 1, audioOutputs: 1, audioSources: 1 });
  expect(
    readRelays(
      bodyOf(
        '<tds:GetRelayOutputsResponse><tds:RelayOutputs token="r1"><tt:Properties><tt:Mode>Monostable</tt:Mode><tt:DelayTime>PT5S</tt:DelayTime><tt:IdleState>open</tt:IdleState></tt:Properties></tds:RelayOutputs></tds:GetRelayOutputsResponse>',
      ),
    ),
  ).toEqual(['r1']);
});

test('profiles say their lens and their size; one without video is none', () => {
  const profiles = readProfiles(
    bodyOf(
      '<trt:GetProfilesResponse><trt:Profiles token="P1" fixed="true"><tt:Name>main</tt:Name><tt:VideoSourceConfiguration token="V"><tt:Name>v</tt:Name><tt:UseCount>1</tt:UseCount><tt:SourceToken>S1</tt:SourceToken><tt:Bounds x="0" y="0" width="1920" height="1080"/></tt:VideoSourceConfiguration><tt:VideoEncoderConfiguration token="E"><tt:Name>e</tt:Name><tt:UseCount>1</tt:UseCount><tt:Encoding>H264</tt:Encoding><tt:Resolution><tt:Width>1280</tt:Width><tt:Height>720</tt:Height></tt:Resolution><tt:Quality>4</tt:Quality></tt:VideoEncoderConfiguration></trt:Profiles><trt:Profiles token="P2"><tt:Name>sound</tt:Name></trt:Profiles></trt:GetProfilesResponse>',
    ),
  );
  expect(profiles).toEqual([{ token: 'P1', name: 'main', source: 'S1', encoding: 'H264', width: 1280, height: 720 }]);
  expect(
    readUri(
      bodyOf(
        '<trt:GetStreamUriResponse><trt:MediaUri><tt:Uri> rtsp://h/s?x=1&amp;y=2 </tt:Uri><tt:InvalidAfterConnect>false</tt:InvalidAfterConnect></trt:MediaUri></trt:GetStreamUriResponse>',
      ),
    ),
  ).toBe('rtsp://h/s?x=1&y=2');
});

test('a refused sign-in is told from other faults, in SOAP 1.2 and 1.1', () => {
  const problem = (inner: string) => readSoap(soap(`<SOAP-ENV:Fault>${inner}</SOAP-ENV:Fault>`));
  const code = (sub: string) =>
    `<SOAP-ENV:Code><SOAP-ENV:Value>SOAP-ENV:Sender</SOAP-ENV:Value><SOAP-ENV:Subcode><SOAP-ENV:Value>ter:${sub}</SOAP-ENV:Value></SOAP-ENV:Subcode></SOAP-ENV:Code><SOAP-ENV:Reason><SOAP-ENV:Text xml:lang="en">why</SOAP-ENV:Text></SOAP-ENV:Reason>`;
  expect(problem(code('NotAuthorized'))).toEqual({ ok: false, problem: { code: 'NotAuthorized', reason: 'why', isSignIn: true } });
  expect(problem(code('ActionNotSupported'))).toMatchObject({ problem: { code: 'ActionNotSupported', isSignIn: false } });
  expect(problem('<faultcode>wsse:FailedAuthentication</faultcode><faultstring>no</faultstring>')).toMatchObject({
    problem: { reason: 'no', isSignIn: true },
  });
});

test.each([
  ['<html><body>It works</body></html>', /SOAP Envelope/],
  ['<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', /document type/],
  ['not xml', /well formed|document/],
])('%s is no answer', (text, words) => {
  expect(() => readSoap(text)).toThrow(expect.objectContaining({ code: 'bad-input' }));
  try {
    readSoap(text);
  } catch (thrown) {
    const { message, hint } = thrown as { message: string; hint: string };
    expect(`${message} ${hint}`).toMatch(words);
  }
});

// WS-Security UsernameToken Profile 1.0, section 3.1: names, and where digest and nonce say how they are written.
test('a request carries its token where the standard has it, and what is put in cannot break out', () => {
  const token = { username: 'a<b', digest: 'd', nonce: 'n', created: '2026-06-01T19:05:09Z' };
  const root = readXml(soapRequest(ask.setRelay('r"><x/>', true), token));
  const own = childOf(root, 'Header', 'Security', 'UsernameToken')!;
  expect(own.children.map((c) => [c.name, c.text])).toEqual([
    ['Username', 'a<b'],
    ['Password', 'd'],
    ['Nonce', 'n'],
    ['Created', token.created],
  ]);
  expect(childOf(own, 'Password')!.attributes.Type).toMatch(/#PasswordDigest$/);
  expect(childOf(own, 'Nonce')!.attributes.EncodingType).toMatch(/#Base64Binary$/);
  const asked = childOf(root, 'Body', 'SetRelayOutputState')!;
  expect([asked.space, childOf(asked, 'RelayOutputToken')!.text, childOf(asked, 'LogicalState')!.text]).toEqual([
    'http://www.onvif.org/ver10/device/wsdl',
    'r"><x/>',
    'active',
  ]);
});

// WS-Discovery (April 2005), sections 5.2 and 5.3: Probe and ProbeMatches.
test('a probe asks for cameras, and only answers to it are taken', () => {
  const id = '0d2f5a1c-0000-4000-8000-000000000001';
  const probe = readXml(writeProbe(id));
  expect(childOf(probe, 'Header', 'MessageID')!.text).toBe(`urn:uuid:${id}`);
  expect(allOf(probe, 'Types')[0]!.text).toBe('dn:NetworkVideoTransmitter');
  const match = (to: string, addresses: string) =>
    `<s:Envelope xmlns:s="http://www.w3.org/2003/05/soap-envelope" xmlns:a="http://schemas.xmlsoap.org/ws/2004/08/addressing" xmlns:d="http://schemas.xmlsoap.org/ws/2005/04/discovery"><s:Header><a:RelatesTo>urn:uuid:${to}</a:RelatesTo></s:Header><s:Body><d:ProbeMatches><d:ProbeMatch><a:EndpointReference><a:Address>urn:uuid:77</a:Address></a:EndpointReference><d:Types>dn:NetworkVideoTransmitter</d:Types><d:Scopes>onvif://www.onvif.org/name/Reed%20mace onvif://www.onvif.org/hardware/RM_1 onvif://www.onvif.org/location/Yard%</d:Scopes><d:XAddrs>${addresses}</d:XAddrs><d:MetadataVersion>1</d:MetadataVersion></d:ProbeMatch></d:ProbeMatches></s:Body></s:Envelope>`;
  expect(readProbeMatches(match(id, 'http://10.0.0.5/onvif/device_service https://10.0.0.5/x ftp://10.0.0.5'), id)).toEqual([
    {
      id: 'urn:uuid:77',
      addresses: ['http://10.0.0.5/onvif/device_service', 'https://10.0.0.5/x'],
      name: 'Reed mace',
      hardware: 'RM 1',
      location: 'Yard%',
    },
  ]);
  expect(readProbeMatches(match('other', 'http://10.0.0.5/'), id)).toEqual([]);
  expect(readProbeMatches(match(id, 'file:///etc/passwd'), id)).toEqual([]);
});

test('a pull point: where it is, what is pulled from it, and how it is asked (ONVIF Core, event handling; event.wsdl)', () => {
  const made =
    '<tev:CreatePullPointSubscriptionResponse xmlns:tev="http://www.onvif.org/ver10/events/wsdl" xmlns:wsa="http://www.w3.org/2005/08/addressing" xmlns:wsnt="http://docs.oasis-open.org/wsn/b-2"><tev:SubscriptionReference><wsa:Address>http://h/onvif/pull?s=1&amp;t=2</wsa:Address></tev:SubscriptionReference><wsnt:CurrentTime>2026-06-01T19:00:00Z</wsnt:CurrentTime><wsnt:TerminationTime>2026-06-01T19:01:00Z</wsnt:TerminationTime></tev:CreatePullPointSubscriptionResponse>';
  expect(readSubscription(bodyOf(made))).toBe('http://h/onvif/pull?s=1&t=2');
  const pulled =
    '<tev:PullMessagesResponse xmlns:tev="http://www.onvif.org/ver10/events/wsdl" xmlns:wsnt="http://docs.oasis-open.org/wsn/b-2" xmlns:tns1="http://www.onvif.org/ver10/topics"><tev:CurrentTime>2026-06-01T19:00:05Z</tev:CurrentTime><tev:TerminationTime>2026-06-01T19:01:05Z</tev:TerminationTime><wsnt:NotificationMessage><wsnt:Topic Dialect="http://www.onvif.org/ver10/tev/topicExpression/ConcreteSet">tns1:VideoSource/ImageTooDark/ImagingService</wsnt:Topic><wsnt:Message><tt:Message UtcTime="2026-06-01T19:00:04Z" PropertyOperation="Changed"><tt:Source><tt:SimpleItem Name="Source" Value="lens-1"/></tt:Source><tt:Data><tt:SimpleItem Name="State" Value="true"/></tt:Data></tt:Message></wsnt:Message></wsnt:NotificationMessage></tev:PullMessagesResponse>';
  expect(readNotifications(bodyOf(pulled))).toMatchObject([{ kind: 'too-dark', isActive: true, source: { Source: 'lens-1' } }]);
  const request = readXml(soapRequest(ask.pull(10, 50), undefined, addressedTo('http://h/a?b&c', actions.pull)));
  expect(childOf(request, 'Header', 'To')?.text).toBe('http://h/a?b&c');
  expect(childOf(request, 'Header', 'Action')?.text).toMatch(/PullMessagesRequest$/);
  expect([
    childOf(request, 'Body', 'PullMessages', 'Timeout')?.text,
    childOf(request, 'Body', 'PullMessages', 'MessageLimit')?.text,
  ]).toEqual(['PT10S', '50']);
});

test('a filter that comes off at night says that there is infrared (ONVIF Imaging, IrCutFilter)', () => {
  const settings = (inner: string) =>
    readHasInfrared(
      bodyOf(
        `<timg:GetImagingSettingsResponse xmlns:timg="http://www.onvif.org/ver20/imaging/wsdl"><timg:ImagingSettings><tt:Brightness>50</tt:Brightness>${inner}</timg:ImagingSettings></timg:GetImagingSettingsResponse>`,
      ),
    );
  expect([settings('<tt:IrCutFilter>AUTO</tt:IrCutFilter>'), settings('')]).toEqual([true, false]);
});
