// Answers WS-Discovery for the devices here, on loopback and whatever networks there are.

import { createSocket } from 'node:dgram';
import { networkInterfaces } from 'node:os';

export type Findable = { readonly id: string; readonly address: string; readonly name: string; readonly hardware: string };

const group = '239.255.255.250';
const port = 3702;

export async function answerDiscovery(devices: () => readonly Findable[]): Promise<{ close(): void }> {
  const socket = createSocket({ type: 'udp4', reuseAddr: true });
  socket.on('message', (message, from) => {
    const text = message.toString('utf8');
    const id = /<(?:\w+:)?MessageID[^>]*>([^<]+)</.exec(text)?.[1];
    if (!id || !/<(?:\w+:)?Probe[\s>]/.test(text) || !/NetworkVideoTransmitter|<(?:\w+:)?Probe\s*\/>/.test(text)) return;
    for (const device of devices()) socket.send(matchOf(device, id), from.port, from.address);
  });
  await new Promise<void>((ready, failed) => socket.once('error', failed).bind(port, () => ready()));
  const own = Object.values(networkInterfaces()).flatMap((list) => (list ?? []).filter((i) => i.family === 'IPv4').map((i) => i.address));
  for (const address of own) socket.addMembership(group, address);
  return { close: () => socket.close() };
}

const matchOf = ({ id, address, name, hardware }: Findable, asked: string) =>
  '<?xml version="1.0" encoding="UTF-8"?><s:Envelope xmlns:s="http://www.w3.org/2003/05/soap-envelope" xmlns:a="http://schemas.xmlsoap.org/ws/2004/08/addressing" xmlns:d="http://schemas.xmlsoap.org/ws/2005/04/discovery" xmlns:dn="http://www.onvif.org/ver10/network/wsdl">' +
  `<s:Header><a:Action>http://schemas.xmlsoap.org/ws/2005/04/discovery/ProbeMatches</a:Action><a:RelatesTo>${asked}</a:RelatesTo><a:To>http://schemas.xmlsoap.org/ws/2004/08/addressing/role/anonymous</a:To></s:Header>` +
  `<s:Body><d:ProbeMatches><d:ProbeMatch><a:EndpointReference><a:Address>${id}</a:Address></a:EndpointReference><d:Types>dn:NetworkVideoTransmitter</d:Types>` +
  `<d:Scopes>onvif://www.onvif.org/type/video_encoder onvif://www.onvif.org/name/${encodeURIComponent(name)} onvif://www.onvif.org/hardware/${encodeURIComponent(hardware)}</d:Scopes>` +
  `<d:XAddrs>${address}</d:XAddrs><d:MetadataVersion>1</d:MetadataVersion></d:ProbeMatch></d:ProbeMatches></s:Body></s:Envelope>`;
