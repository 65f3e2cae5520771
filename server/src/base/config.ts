// All that is set from outside, read once.

import { readFileSync } from 'node:fs';
import { isIP } from 'node:net';
import path from 'node:path';
import { Problem } from '@nibber/core/problem';

export type Config = {
  readonly port: number;
  /** The address to listen at; this machine alone if none is said. */
  readonly host: string;
  /** Own certificate and key, PEM; plain HTTP without. */
  readonly tls: { readonly cert: Buffer; readonly key: Buffer } | undefined;
  /** Whom to believe about who asks: how many proxies stand before, or their addresses; no one if not said. */
  readonly trustProxy: number | readonly string[] | false;
  readonly dataFolder: string;
  /** The key that seals secrets; it stands beside the database and never in it. */
  readonly keyFile: string;
  /** A site file to apply at start. */
  readonly siteFile: string | undefined;
  readonly modelFolder: string | undefined;
  /** SNTP server to take the time of the site from, host:port; this machine's clock if absent. */
  readonly timeServer: string | undefined;
  /** How far, hours, a time server may be from the machine's clock and be believed. */
  readonly timeHours: number;
  /** What phones reach this server by. */
  readonly publicUrl: string;
  /** More host names by which browsers may address this server. */
  readonly hosts: readonly string[];
  readonly describer: { readonly url: string; readonly model: string; readonly key: string | undefined } | undefined;
  /** Push services on private addresses that may be called, as origins; every other must be a public one, by https. */
  readonly ownPushServices: readonly string[];
  /** Gateways and webhooks on private addresses that may be called, as origins; every other must be a public one, by https. */
  readonly ownServices: readonly string[];
  /** Certificates that mail servers may have beside the usual, PEM. */
  readonly mailCa: string | undefined;
  /** The same for brokers, and the certificate with its key by which they know this server. */
  readonly brokerTls: { readonly ca: string | undefined; readonly cert: string | undefined; readonly key: string | undefined };
  readonly clientFolder: string;
  /** Whether every answer is held against its schema: for tests. */
  readonly checkAnswers: boolean;
};

const loopback = '127.0.0.1';
const isLoopback = (host: string) => host === 'localhost' || host === '::1' || /^127\./.test(host);

/** @throws Problem 'bad-input' for what cannot be meant */
export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const port = Number(env.PORT || 8080);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) throw bad(`PORT is ${env.PORT}`, 'Set it to a number from 1 to 65535.');
  const dataFolder = path.resolve(env.NIBBER_DATA || '.data');
  const host = env.HOST || loopback;
  const tls = tlsOf(env);
  if (!isLoopback(host) && !tls)
    throw bad(
      `HOST is ${host} without a certificate`,
      'Set NIBBER_TLS_CERT and NIBBER_TLS_KEY to PEM files to listen on the network, or remove HOST and use a proxy with TLS.',
    );
  const shown = isLoopback(host) ? loopback : isIP(host) === 6 ? `[${host}]` : host;
  return {
    port,
    host,
    tls,
    trustProxy: proxiesOf(env.NIBBER_TRUST_PROXY),
    dataFolder,
    keyFile: path.resolve(env.NIBBER_KEY_FILE || path.join(dataFolder, 'secrets.key')),
    siteFile: env.NIBBER_SITE || undefined,
    modelFolder: env.NIBBER_MODEL || undefined,
    timeServer: env.NIBBER_TIME_SERVER || undefined,
    timeHours: scheduleOf(env.NIBBER_TIME_HOURS),
    publicUrl: originOf('NIBBER_PUBLIC_URL', env.NIBBER_PUBLIC_URL || `${tls ? 'https' : 'http'}://${shown}:${port}`),
    hosts: hostsOf(env.NIBBER_HOSTS),
    describer: env.NIBBER_DESCRIBER_URL
      ? { url: env.NIBBER_DESCRIBER_URL, model: env.NIBBER_DESCRIBER_MODEL ?? 'default', key: env.NIBBER_DESCRIBER_KEY }
      : undefined,
    ownServices: originsOf('NIBBER_OWN_SERVICES', env),
    mailCa: fileOf('NIBBER_MAIL_CA', env),
    brokerTls: brokerTlsOf(env),
    ownPushServices: originsOf('NIBBER_PUSH_SERVICES', env),
    clientFolder: path.join(__dirname, '..', '..', '..', 'client', 'dist'),
    checkAnswers: env.NIBBER_CHECK_ANSWERS === 'yes',
  };
}

function hostsOf(text = ''): string[] {
  const names = text
    .split(',')
    .map((n) => n.trim().toLowerCase())
    .filter(Boolean);
  const wrong = names.find((n) => !/^[a-z0-9]([a-z0-9.-]{0,250}[a-z0-9])?$/.test(n));
  if (wrong !== undefined) throw bad(`NIBBER_HOSTS has ${wrong}`, 'Use names without ports, such as nibber.lan, place.example.');
  return names;
}

/** A day and a half: further off one of the two clocks is wrong. */
const defaultTimeHours = 36;
function scheduleOf(text: string | undefined): number {
  const hours = text ? Number(text) : defaultTimeHours;
  if (!(hours >= 0 && hours <= 1_000_000)) throw bad(`NIBBER_TIME_HOURS is ${text}`, 'Set it to a number of hours, such as 36.');
  return hours;
}

const originsOf = (name: string, env: NodeJS.ProcessEnv) =>
  (env[name] ?? '')
    .split(',')
    .filter((o) => o.trim())
    .map((o) => originOf(name, o.trim()));

function fileOf(name: string, env: NodeJS.ProcessEnv): string | undefined {
  if (!env[name]) return undefined;
  try {
    return readFileSync(env[name], 'utf8');
  } catch (thrown) {
    throw bad(`${name} cannot be read: ${(thrown as Error).message}`, 'Use the path of a PEM file, or remove it.');
  }
}

function brokerTlsOf(env: NodeJS.ProcessEnv): Config['brokerTls'] {
  const found = { ca: fileOf('NIBBER_BROKER_CA', env), cert: fileOf('NIBBER_BROKER_CERT', env), key: fileOf('NIBBER_BROKER_KEY', env) };
  if (!found.cert !== !found.key) throw bad('Only one of NIBBER_BROKER_CERT and NIBBER_BROKER_KEY is set', 'Set both, or neither.');
  return found;
}

const bad = (what: string, hint: string) => new Problem('bad-input', `${what}.`, hint);

function originOf(name: string, text: string): string {
  try {
    const url = new URL(text);
    if (/^https?:$/.test(url.protocol) && !url.username) return url.origin;
  } catch {
    // Said below.
  }
  throw bad(`${name} is ${text}`, 'Use an address such as https://place.example.');
}

function tlsOf(env: NodeJS.ProcessEnv): Config['tls'] {
  const [cert, key] = [env.NIBBER_TLS_CERT, env.NIBBER_TLS_KEY];
  if (!cert && !key) return undefined;
  if (!cert || !key) throw bad('Only one of NIBBER_TLS_CERT and NIBBER_TLS_KEY is set', 'Set both, or neither.');
  try {
    return { cert: readFileSync(cert), key: readFileSync(key) };
  } catch (thrown) {
    throw bad(`The certificate or its key cannot be read: ${(thrown as Error).message}`, 'Check NIBBER_TLS_CERT and NIBBER_TLS_KEY.');
  }
}

function proxiesOf(text: string | undefined): Config['trustProxy'] {
  if (!text || text === 'off') return false;
  if (/^[1-9]$/.test(text)) return Number(text);
  const addresses = text.split(',').map((a) => a.trim());
  const wrong = addresses.find((a) => !(a === 'loopback' || isIP(a.replace(/\/\d{1,3}$/, ''))));
  if (wrong !== undefined)
    throw bad(
      `NIBBER_TRUST_PROXY has ${wrong}`,
      'Use the number of proxies in front of this server, or their addresses, such as 127.0.0.1.',
    );
  return addresses;
}
