// Other programs told over MQTT (3.1.1 and later): how the place stands as retained topics, what happened as messages that are not.
// Plain topics, nothing announced (docs/receivers.md).

import { connectAsync, type MqttClient } from 'mqtt';
import type { Receiver } from '@nibber/core/site';
import { log } from '../../log';
import type { SiteBook } from '../../record/site';
import type { Answer, Channel } from './index';
import { ofReceiver, type ChannelSecrets } from './secrets';
import { alertEvent } from './webhook';

const connectMs = 8000;
const publishMs = 10_000;
const usualTopic = 'nibber';

export type MqttNeeds = {
  readonly site: SiteBook;
  readonly secrets: ChannelSecrets;
  readonly publicUrl: string;
};

export type MqttChannel = Channel & {
  /** Says how the place stands to every broker; what is said already is not said again. @param stateOf how a camera does, in a word */
  sayState(stateOf: (camera: string) => string): Promise<void>;
};

type Line = { readonly client: MqttClient; readonly settings: string; readonly said: Map<string, string> };

export function mqttChannel({ site, secrets, publicUrl }: MqttNeeds): MqttChannel {
  const lines = new Map<string, Promise<Line>>();
  const brokers = () => (site.file.receivers ?? []).filter((r) => r.by === 'mqtt');
  const topicOf = ({ topic = usualTopic }: Receiver) => topic;

  const passwordOf = async (to: Receiver) => {
    const password = await secrets.of(ofReceiver(to));
    if (password === undefined) throw new Error('no password is kept for this broker; enter it in Channels');
    return password;
  };
  const open = async (to: Receiver, settings: string): Promise<Line> => {
    const client = await connectAsync(to.url, {
      connectTimeout: connectMs,
      reconnectPeriod: 5000,
      clientId: `nibber-${to.id}`,
      // What is not taken now is tried again from the outbox; nothing is held here as well.
      queueQoSZero: false,
      ...(to.user === undefined ? {} : { username: to.user, password: await passwordOf(to) }),
      will: { topic: `${topicOf(to)}/state`, payload: Buffer.from('offline'), qos: 1, retain: true },
    }, false); // prettier-ignore
    client.on('error', (error) => log.warn({ receiver: to.id, error: error.message }, 'a broker is not reached'));
    const said = new Map<string, string>();
    // A broker that was started anew may have forgotten what it retained.
    client.on('connect', () => said.clear());
    return { client, settings, said };
  };
  const end = async (id: string) => {
    const line = lines.get(id);
    lines.delete(id);
    await line?.then(({ client }) => client.endAsync(true)).catch(() => {});
  };
  /** The line to a broker, made anew where its settings have changed. */
  const lineTo = async (to: Receiver): Promise<Line> => {
    const settings = JSON.stringify([to.url, to.topic, to.user, await secrets.of(ofReceiver(to))]);
    const known = await lines.get(to.id)?.catch(() => undefined);
    if (known?.settings === settings) return known;
    await end(to.id);
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
    await Promise.race([client.publishAsync(topic, payload, { qos: 1, retain }), late]).finally(() => clearTimeout(timer));
  };

  const stateTopics = (to: Receiver, stateOf: (camera: string) => string): [string, string][] => {
    const top = topicOf(to);
    return [
      [`${top}/state`, 'online'],
      ...site.modes.map((m): [string, string] => [`${top}/areas/${m.area}/mode`, m.mode]),
      ...site.file.cameras.map((c): [string, string] => [`${top}/cameras/${c.id}/state`, stateOf(c.id)]),
    ];
  };

  return {
    name: 'mqtt',
    fillsIn: true,
    reach: async () => ({ of: (to) => (brokers().some((r) => r.id === to) ? [to] : []), why: () => 'It is not set up any more' }),
    recipientOf: async (id) => brokers().find((r) => r.id === id)?.id,
    async send(id, notice): Promise<Answer> {
      const to = brokers().find((r) => r.id === id);
      if (!to) return { kind: 'gone', why: 'It is not set up any more.' };
      try {
        const topic = `${topicOf(to)}/events/${notice.of.rule ?? 'other'}`;
        await publish(await lineTo(to), topic, JSON.stringify(alertEvent(notice, publicUrl)), false);
        return { kind: 'accepted', said: `The broker took it as ${topic}` };
      } catch (thrown) {
        return { kind: 'failed', why: `The broker was not reached: ${(thrown as Error).message}` };
      }
    },
    async sayState(stateOf) {
      const all = brokers();
      for (const id of [...lines.keys()]) if (!all.some((r) => r.id === id)) await end(id);
      await Promise.all(
        all.map(async (to) => {
          const line = await lineTo(to);
          for (const [topic, value] of stateTopics(to, stateOf)) {
            if (line.said.get(topic) === value) continue;
            await publish(line, topic, value, true);
            line.said.set(topic, value);
          }
        }).map((p) => p.catch((thrown: Error) => log.debug({ error: thrown.message }, 'a broker is not told how the place stands'))), // prettier-ignore
      );
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
