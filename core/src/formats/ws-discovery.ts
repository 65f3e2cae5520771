// Finding devices: WS-Discovery (schemas.xmlsoap.org, April 2005) as ONVIF Core, section "Discovery", uses it.

import { readXml, allOf, childOf, xmlText } from './xml';

export const discoveryGroup = { address: '239.255.255.250', port: 3702 } as const;

/** @param id of this question, a UUID */
export const writeProbe = (id: string): string =>
  '<?xml version="1.0" encoding="UTF-8"?><s:Envelope xmlns:s="http://www.w3.org/2003/05/soap-envelope" xmlns:a="http://schemas.xmlsoap.org/ws/2004/08/addressing" xmlns:d="http://schemas.xmlsoap.org/ws/2005/04/discovery" xmlns:dn="http://www.onvif.org/ver10/network/wsdl">' +
  '<s:Header><a:Action>http://schemas.xmlsoap.org/ws/2005/04/discovery/Probe</a:Action>' +
  `<a:MessageID>urn:uuid:${xmlText(id)}</a:MessageID><a:To>urn:schemas-xmlsoap-org:ws:2005:04:discovery</a:To></s:Header>` +
  '<s:Body><d:Probe><d:Types>dn:NetworkVideoTransmitter</d:Types></d:Probe></s:Body></s:Envelope>';

/** A device that answered. `id` is its own and stays the same; `addresses` are where its device service answers. */
export type FoundDevice = {
  readonly id: string;
  readonly addresses: readonly string[];
  readonly name: string | undefined;
  readonly hardware: string | undefined;
  readonly location: string | undefined;
};

/**
 * @param asked the id of our question; answers to others' are left out
 * @throws Problem 'bad-input' with line and column where it is no XML
 */
export function readProbeMatches(text: string, asked: string): FoundDevice[] {
  const root = readXml(text);
  if (childOf(root, 'Header', 'RelatesTo')?.text.trim() !== `urn:uuid:${asked}`) return [];
  return allOf(root, 'ProbeMatch').flatMap((match) => {
    const id = childOf(match, 'EndpointReference', 'Address')?.text.trim();
    const words = (name: string) => (childOf(match, name)?.text ?? '').split(/\s+/).filter(Boolean);
    const addresses = words('XAddrs').filter((a) => /^https?:\/\//.test(a));
    if (!id || addresses.length === 0) return [];
    const scope = (name: string) => {
      const found = words('Scopes').find((s) => s.startsWith(`onvif://www.onvif.org/${name}/`));
      return found && decoded(found.slice(`onvif://www.onvif.org/${name}/`.length));
    };
    return [{ id, addresses, name: scope('name'), hardware: scope('hardware'), location: scope('location') }];
  });
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text).replaceAll('_', ' ');
  } catch {
    return text;
  }
}
