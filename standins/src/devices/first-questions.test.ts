import { createServer, type Server } from 'node:http';
import express from 'express';
import { allOf, readSoap, soapRequest } from '@nibber/core/formats';
import { tried, usernameToken } from '@nibber/server/net/login';
import { onvifDevice, type Device } from './device';
import { park } from './park';

const login = tried(park.racks.user, park.racks.password);
let racks: Device;
let server: Server;
let base: string;
beforeAll(async () => {
  const place = { name: 'racks', base: () => `${base}/devices/racks`, rtsp: () => '', now: Date.now, inView: async () => [] };
  racks = onvifDevice(park.racks, place, [null]);
  server = createServer(express().use('/devices/racks', racks.router));
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  base = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
});
afterAll(() => {
  racks.close();
  server.close();
});

describe('a device answers what any client asks first', () => {
  const asked = async (question: string, service = 'device_service', isSigned = false) => {
    const body = soapRequest(question, isSigned ? usernameToken(login, new Date().toISOString()) : undefined, '');
    const response = await fetch(`${base}/devices/racks/onvif/${service}`, {
      method: 'POST',
      body,
      headers: { 'content-type': 'application/soap+xml' },
    });
    return readSoap(await response.text());
  };
  const device = 'xmlns="http://www.onvif.org/ver10/device/wsdl"';

  test('its services, with where they are, to anyone', async () => {
    const answer = await asked(`<GetServices ${device}><IncludeCapability>true</IncludeCapability></GetServices>`);
    expect(answer.ok && allOf(answer.body, 'XAddr').map((a) => a.text.split('/').at(-1))).toEqual([
      'device_service',
      'media',
      'events',
      'imaging',
      'deviceio',
    ]);
    expect(answer.ok && allOf(answer.body, 'Namespace').map((n) => n.text)).toContain('http://www.onvif.org/ver10/media/wsdl');
  });

  test.each([
    ['device_service', 'UsernameToken'],
    ['media', 'RTP_RTSP_TCP'],
    ['events', 'MaxPullPoints'],
  ])('what its %s can do', async (service, name) => {
    const answer = await asked(`<GetServiceCapabilities ${device}/>`, service);
    expect(
      answer.ok &&
        allOf(answer.body, 'Capabilities')
          .concat(answer.ok ? allOf(answer.body, 'Security') : [], answer.ok ? allOf(answer.body, 'StreamingCapabilities') : [])
          .some((e) => name in e.attributes),
    ).toBe(true);
  });

  test.each([
    ['GetScopes', 'device_service', 'ScopeItem'],
    ['GetVideoSources', 'media', 'VideoSources'],
    ['GetEventProperties', 'events', 'TopicSet'],
  ])('%s, to those who are let in', async (question, service, name) => {
    expect((await asked(`<${question} ${device}/>`, service)).ok).toBe(false);
    const answer = await asked(`<${question} ${device}/>`, service, true);
    expect(answer.ok && allOf(answer.body, name).length).toBeGreaterThan(0);
  });
});
