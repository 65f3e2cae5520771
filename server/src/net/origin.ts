// Where something that lets in elsewhere may be sent: scheme, host and port (RFC 6454), of addresses of any kind.

const defaultPorts: { readonly [scheme: string]: number } = { http: 80, https: 443, rtsp: 554, mqtt: 1883, mqtts: 8883 };

/** @throws nothing: an address that is none belongs nowhere */
export function originOf(address: string): string {
  try {
    const { protocol, hostname, port } = new URL(address);
    return `${protocol}//${hostname.toLowerCase()}:${port || defaultPorts[protocol.slice(0, -1)] || ''}`;
  } catch {
    return '';
  }
}
