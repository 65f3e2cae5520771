// Other programs notified over MQTT (5, or 3.1.1 for older brokers): states as retained topics, events as messages that are not retained.
// Plain topics, nothing announced (docs/receivers.md).

import { setTimeout as wait } from 'node:timers/promises';
import { rootCertificates } from 'node:tls';
import { connect, type IClientOptions, type MqttClient } from 'mqtt';
import type { Receiver } from '@nibber/core/site';
import { log } from '../../base/log';
import type { Settings } from '../../db/settings';
import type { SiteBook } from '../../db/site';
import type { Answer, Channel } from './index';
import { ofReceiver, type ChannelSecrets } from '../../db/secrets';
import { alertEvent } from './webhook';

const connectMs = 8000;
const againMs = 5000;
const publishMs = 10_000;
const defaultTopic = 'nibber';

/** Nothing is subscribed to, so no packet of a broker is longer than this. */
const maxPacketBytes = 16_384;
/** As many bytes as may come before one of them is a whole packet: several of those may come at once. */
const maxUnreadBytes = 131_072;

/** What is trusted of brokers, and shown to them, beside the usual; PEM. */
export type BrokerTls = { readonly ca: string | undefined; readonly cert: string | undefined; readonly key: string | undefined };

export type MqttNeeds = {
  readonly site: SiteBook;
  readonly secrets: ChannelSecrets;
  /** Where the topics are remembered that a broker retains for us. */
  readonly settings: Pick<Settings, 'get' | 'set'>;
  readonly tls: BrokerTls;
  readonly publicUrl: string;
};

export type MqttChannel = Channel & {
  /** Says how the place stands to every broker; what is said already is not said again. @param stateOf how a camera does, in a word */
  sayState(stateOf: (camera: string) => string): Promise<void>;
};

const isOfVersion = (thrown: Error & { code?: unknown }) =>
  thrown.code === 1 || thrown.code === 132 || /protocol version|closed the connection/i.test(thrown.message);

type Line = { readonly client: MqttClient; readonly settings: string; readonly url: string; readonly said: Map<string, string> };

/**
 * Connects once, and again by itself after that.
 * @throws Error in the broker's words
 */
function connected(url: string, options: IClientOptions): Promise<MqttClient> {
  const client = connect(url, { ...options, connectTimeout: connectMs, reconnectPeriod: againMs });
  // Each line that it opens is watched from its first byte.
  limitPackets(client);
  client.on('reconnect', () => queueMicrotask(() => limitPackets(client)));
  return new Promise((resolve, reject) => {
    const failed = (error: Error) => {
      client.end(true);
      // What comes after that is of no one's interest, and must not be unheard either.
      client.on('error', () => {});
      reject(error);
    };
    client.once('error', failed);
    const closed = () => failed(new Error('it closed the connection'));
    client.once('close', closed);
    client.once('connect', () => {
      client.off('close', closed);
      client.off('error', failed);
      resolve(client);
    });
  });
}

/** Ends a line that brings more than any packet that we could be sent. */
function limitPackets(client: MqttClient): void {
  const { stream } = client;
  let bytes = 0;
  const whole = () => void (bytes = 0);
  client.on('packetreceive', whole);
  stream.on('data', (piece: Buffer) => {
    bytes += piece.length;
    if (bytes > maxUnreadBytes) stream.destroy(new Error('it sends too much data'));
  });
  stream.on('close', () => client.off('packetreceive', whole));
}

export function mqttChannel({ site, secrets, settings: kept, tls, publicUrl }: MqttNeeds): MqttChannel {
  const lines = new Map<string, Promise<Line>>();
  const brokers = () => (site.file.receivers ?? []).filter((r) => r.by === 'mqtt');
  const topicOf = ({ topic = defaultTopic }: Receiver) => topic;

  const passwordOf = async (to: Receiver) => {
    const password = await secrets.of(ofReceiver(to));
    if (password === undefined) throw new Error('this broker has no password; enter it in Channels');
    return password;
  };
  const open = async (to: Receiver, settings: string): Promise<Line> => {
    const options: IClientOptions = {
      clientId: `nibber-${to.id}`,
      // What is not taken now is tried again from the outbox; nothing is held here as well.
      queueQoSZero: false,
      ...(to.user === undefined ? {} : { username: to.user, password: await passwordOf(to) }),
      ...(tls.ca ? { ca: [...rootCertificates, tls.ca] } : {}),
      ...(tls.cert && tls.key ? { cert: tls.cert, key: tls.key } : {}),
      will: { topic: `${topicOf(to)}/state`, payload: Buffer.from('offline'), qos: 1, retain: true },
    };
    const latest = { protocolVersion: 5, properties: { maximumPacketSize: maxPacketBytes } } as const;
    const client = await connected(to.url, { ...options, ...latest }).catch((thrown: Error & { code?: unknown }) =>
      // A broker that is there and speaks no version 5 says so (MQTT 5, 3.2.2.2; 3.1.1, 3.2.2.3), or just hangs up.
      isOfVersion(thrown) ? connected(to.url, { ...options, protocolVersion: 4 }) : Promise.reject(thrown),
    );
    client.on('error', (error) => log.warn({ receiver: to.id, error: error.message }, 'a broker is not reached'));
    const said = new Map<string, string>();
    // A broker that was started again may have forgotten what it retained.
    client.on('connect', () => said.clear());
    return { client, settings, url: to.url, said };
  };
  const topicsKey = (id: string) => `mqtt topics ${id}`;
  const retained = async (id: string): Promise<string[]> => JSON.parse((await kept.get(topicsKey(id))) ?? '[]') as string[];
  /** Topics that are said no more are emptied: a retained message of no length is none (MQTT 5, 3.3.1.3). */
  const takeBack = async (line: Line, id: string, wanted: readonly string[]) => {
    const before = await retained(id);
    const gone = before.filter((topic) => !wanted.includes(topic));
    for (const topic of gone) {
      await publish(line, topic, '', true);
      line.said.delete(topic);
    }
    if (gone.length > 0 || wanted.some((topic) => !before.includes(topic))) await kept.set(topicsKey(id), JSON.stringify(wanted));
  };
  const end = async (id: string) => {
    const line = lines.get(id);
    lines.delete(id);
    await line?.then(({ client }) => client.endAsync(true)).catch(() => {});
  };
  /** A broker that was removed or replaced is left as it was found. */
  const leave = async (id: string) => {
    const line = await lines.get(id)?.catch(() => undefined);
    if (!line) return end(id);
    lines.delete(id);
    await takeBack(line, id, []).catch((thrown: Error) => log.warn({ receiver: id, error: thrown.message }, 'topics stay at a broker'));
    // In order, so that the last will is not said for it.
    await Promise.race([line.client.endAsync(), wait(publishMs, undefined, { ref: false })]).finally(() => line.client.end(true));
  };
  /** The line to a broker, made again where its settings have changed. */
  const lineTo = async (to: Receiver): Promise<Line> => {
    const settings = JSON.stringify([to.url, to.topic, to.user, await secrets.of(ofReceiver(to))]);
    const known = await lines.get(to.id)?.catch(() => undefined);
    if (known?.settings === settings) return known;
    await (known && known.url !== to.url ? leave(to.id) : end(to.id));
    const opened = open(to, settings);
    lines.set(to.id, opened);
    opened.catch(() => lines.delete(to.id));
    return opened;
  };
  const publish = async ({ client }: Line, topic: string, payload: string, retain: boolean) => {
    if (!client.connected) throw new Error('it is not connected');
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_, reject) => {
      timer = setTimeout(() => reject(new Error(`no answer in ${publishMs / 1000} s`)), publishMs);
    });
    const properties =
      client.options.protocolVersion === 5 && payload.startsWith('{')
        ? { properties: { contentType: 'application/cloudevents+json' } }
        : {};
    await Promise.race([client.publishAsync(topic, payload, { qos: 1, retain, ...properties }), late]).finally(() => clearTimeout(timer));
  };

  const stateTopics = (to: Receiver, stateOf: (camera: string) => string): [string, string][] => {
    const top = topicOf(to);
    return [
      [`${top}/state`, 'online'],
      ...site.modes.map((m): [string, string] => [`${top}/areas/${m.area}/mode`, m.mode]),
      ...site.file.cameras.map((c): [string, string] => [`${top}/cameras/${c.id}/state`, stateOf(c.id)]),
    ];
  };

  let saying: Promise<void> = Promise.resolve();
  const sayAll = async (stateOf: (camera: string) => string): Promise<void> => {
    const all = brokers();
    for (const id of [...lines.keys()]) if (!all.some((r) => r.id === id)) await leave(id);
    await Promise.all(
      all
        .map(async (to) => {
          const line = await lineTo(to);
          const topics = stateTopics(to, stateOf);
          await takeBack(
            line,
            to.id,
            topics.map(([topic]) => topic),
          );
          for (const [topic, value] of topics) {
            if (line.said.get(topic) === value) continue;
            await publish(line, topic, value, true);
            line.said.set(topic, value);
          }
        })
        .map((p) => p.catch((thrown: Error) => log.debug({ error: thrown.message }, 'a broker is not told how the place stands'))),
    );
  };

  return {
    name: 'mqtt',
    fillsIn: true,
    reach: async () => ({ of: (to) => (brokers().some((r) => r.id === to) ? [to] : []), why: () => 'It is no longer set up' }),
    recipientOf: async (id) => brokers().find((r) => r.id === id)?.id,
    async send(id, notice): Promise<Answer> {
      const to = brokers().find((r) => r.id === id);
      if (!to) return { kind: 'gone', why: 'It is no longer set up.' };
      try {
        const topic = `${topicOf(to)}/events/${notice.of.rule ?? 'other'}`;
        await publish(await lineTo(to), topic, JSON.stringify(alertEvent(notice, publicUrl)), false);
        return { kind: 'accepted', said: `The broker accepted it as ${topic}` };
      } catch (thrown) {
        return { kind: 'failed', why: `The broker is unreachable: ${(thrown as Error).message}` };
      }
    },
    sayState(stateOf) {
      // One after the other: two at once would open two lines.
      saying = saying.then(() => sayAll(stateOf));
      return saying;
    },
    async close() {
      await Promise.all(
        [...lines].map(async ([id, line]) => {
          const to = brokers().find((r) => r.id === id);
          // It goes by itself, so its last will is not said for it.
          if (to) await line.then((l) => publish(l, `${topicOf(to)}/state`, 'offline', true)).catch(() => {});
          await end(id);
        }),
      );
    },
  };
}
