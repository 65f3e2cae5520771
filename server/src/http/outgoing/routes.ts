// What leaves this server: the channels to people and other programs, and the AI services.

import { personChannels } from '@nibber/core/channels';
import { channelsSchema, personSchema, receiverSchema, type Channels, type Receiver } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import { idOf } from '@nibber/core/words';
import { channelProblems, type SiteEdit } from '@nibber/core/check';
import { mayBeCalled } from '../../net/public-address';
import type { ChannelStateRow } from '../../db';
import { randomSecret } from '../../db/sealed';
import type { Answer } from '../../notify/channels';
import { sendMail } from '../../notify/channels/mail';
import { sendText, textOf } from '../../notify/channels/text';
import { ofMail, ofReceiver, ofText, withoutBlanks, type SecretFor } from '../../db/secrets';
import { ringNotice } from '../../notify/try';
import { editedFrom, route, type Route } from '../route';
import { stopNotifying } from '../rules/without-receiver';
import { count, either, list, maybeNumber, maybeText, named, object, orNull, text, yesNo } from '../schema';
import type { Services } from '../services';
import { version } from '../shapes';

const { mail, text: gateway } = channelsSchema.properties;
const reached = object({ person: text, name: text, targets: count });
const state = { acceptedAt: maybeNumber, refusedAt: maybeNumber, why: maybeText };
const channel = named(
  'Channel',
  object({ name: text, isSetUp: yesNo, hasSecret: yesNo, waiting: count, problem: maybeText, people: list(reached), ...state }),
);
const receiver = named('Receiver', object({ receiver: receiverSchema, hasSecret: yesNo, waiting: count, rules: list(text), ...state }));
const answered = named('ChannelAnswer', object({ accepted: yesNo, said: text }));
/** Null takes it away; where it is left out, the present one stays. */
const secret = orNull({ type: 'string', minLength: 1, maxLength: 500, pattern: '^[^\\r\\n]*$' } as const);

type Used = Pick<Services, 'config' | 'record' | 'site' | 'channels' | 'secrets' | 'clock'>;

/** The newest of what was accepted and refused by these. */
function stateOf(states: readonly ChannelStateRow[], isOf: (key: string) => boolean) {
  const own = states.filter((s) => isOf(s.key));
  const newest = (at: (s: ChannelStateRow) => number | null) =>
    own.reduce<number | null>((n, s) => (at(s) === null ? n : Math.max(n ?? 0, at(s)!)), null);
  const refusedAt = newest((s) => s.refusedAt);
  return {
    acceptedAt: newest((s) => s.acceptedAt),
    refusedAt,
    why: own.find((s) => s.refusedAt !== null && s.refusedAt === refusedAt)?.why ?? null,
  };
}

const wordsOf = (answer: Answer) => ({
  accepted: answer.kind === 'accepted',
  said: 'why' in answer ? answer.why : (answer.said ?? 'It was accepted.'),
});

export function outgoingRoutes({ config, record, site, channels, secrets, clock }: Used): Route[] {
  const { ownServices, publicUrl } = config;
  /** @throws Problem 'bad-input' for what must not be called from here */
  const mustBeCallable = (url: string) => {
    if (!mayBeCalled(withoutBlanks(url), ownServices))
      throw new Problem(
        'bad-input',
        'This address is not allowed.',
        'Use a public https address. To allow a local one, add it to NIBBER_OWN_SERVICES.',
      );
  };
  const forChannel = (name: string): SecretFor | undefined => {
    const { mail: server, text: gatewayNow } = site.file.channels ?? {};
    return name === 'mail' && server ? ofMail(server) : name === 'text' && gatewayNow ? ofText(gatewayNow) : undefined;
  };
  const find = (id: string) => {
    const found = site.file.receivers?.find((r) => r.id === id);
    if (!found) throw new Problem('not-found', `Receiver ${id} not found.`, 'Reload the page.');
    return found;
  };
  /** What is done with a secret in the transaction that saves what it is for. @throws Problem as `secrets.given` */
  const keepSecret = async (secretFor: SecretFor, given: string | null | undefined) => {
    await secrets.given(secretFor, given);
    if (given === undefined) return {};
    return {
      also: (transaction: Parameters<typeof secrets.give>[2]) =>
        given === null ? secrets.drop(secretFor.of, transaction) : secrets.give(secretFor, given, transaction),
    };
  };
  const notice = (to: string) => ringNotice(site, clock, publicUrl, to);

  return [
    route({
      method: 'get',
      path: '/api/channels',
      may: 'set up',
      summary: 'Alert channels: settings, reach, waiting alerts, and the last success and failure',
      answer: object({ channels: list(channel), settings: channelsSchema, receivers: list(receiver), version }),
      async handle() {
        const states = await record.channelStates.all();
        const ofPeople = await Promise.all(
          channels
            .filter((c) => (personChannels as readonly string[]).includes(c.name))
            .map(async ({ name, reach }) => {
              const { of } = await reach();
              const { waiting, lastError } = await record.jobs.waiting(name);
              const people = (site.file.people ?? []).map((p) => ({ person: p.id, name: p.name, targets: of(p.id).length }));
              const isSetUp = name === 'push' || site.file.channels?.[name] !== undefined;
              const secretFor = forChannel(name);
              const hasSecret = secretFor !== undefined && (await secrets.of(secretFor)) !== undefined;
              return {
                name,
                isSetUp,
                hasSecret,
                waiting,
                problem: lastError,
                people,
                ...stateOf(states, (key) => key.startsWith(`${name}/`)),
              };
            }),
        );
        const receivers = await Promise.all(
          (site.file.receivers ?? []).map(async (r) => ({
            receiver: r,
            hasSecret: (await secrets.of(ofReceiver(r))) !== undefined,
            waiting: (await record.jobs.waiting(r.by)).waiting,
            rules: (site.file.rules ?? []).filter((rule) => rule.notify?.some((t) => t.to === r.id)).map((rule) => rule.name),
            ...stateOf(states, (key) => key === `${r.by}/${r.id}`),
          })),
        );
        return { channels: ofPeople, settings: site.file.channels ?? {}, receivers, version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/channels/:channel',
      confirms: true,
      may: 'set up',
      summary: 'Set up e-mail or text messages; null removes. The secret is stored encrypted and never returned',
      edits: true,
      body: either(object({ mail: orNull(mail), secret }, ['secret']), object({ text: orNull(gateway), secret }, ['secret'])),
      answer: object({ version }),
      async handle({ request, params, body, visitor }) {
        const [name, settings] = 'mail' in body ? (['mail', body.mail] as const) : (['text', body.text] as const);
        if (params.channel !== name) throw new Problem('bad-input', `This sets up ${name}.`, `Send it to /api/channels/${name}.`);
        if ('text' in body && body.text) mustBeCallable(body.text.url);
        const edits: SiteEdit[] = [[['channels', name], settings ?? undefined]];
        const secretFor = 'mail' in body ? body.mail && ofMail(body.mail) : body.text && ofText(body.text as NonNullable<Channels['text']>);
        const also = await keepSecret(secretFor ?? { of: name, origin: '' }, settings === null ? null : body.secret);
        await site.edit(edits, { by: visitor, what: settings ? `set up ${name}` : `removed ${name}`, from: editedFrom(request), ...also });
        return { version: site.version };
      },
    }),
    route({
      method: 'post',
      path: '/api/channels/:channel/try',
      may: 'set up',
      summary: 'Send a test with these settings, saved or not, and return the answer',
      body: either(
        object({ mail, to: personSchema.properties.mail, secret }, ['secret']),
        object({ text: gateway, to: personSchema.properties.phone, secret }, ['secret']),
      ),
      answer: answered,
      async handle({ params, body, visitor }) {
        const name = 'mail' in body ? 'mail' : 'text';
        if (params.channel !== name) throw new Problem('bad-input', `This tries ${name}.`, `Send it to /api/channels/${name}/try.`);
        const problems = channelProblems({ ...site.file, channels: 'text' in body ? { text: body.text as Channels['text'] } : {} });
        if (problems.length)
          throw new Problem(
            'bad-input',
            `It cannot be used: ${problems.map((f) => f.wrong).join(', ')}.`,
            'Correct it and try again.',
            problems,
          );
        const given = await secrets.given(
          'mail' in body ? ofMail(body.mail) : ofText(body.text as NonNullable<Channels['text']>),
          body.secret,
        );
        await record.logbook.noteDeed(clock.now(), visitor, `tested ${name}`);
        if ('mail' in body) {
          const letter = {
            to: body.to,
            person: visitor.person ?? 'script',
            notice: notice(body.to),
            picture: undefined,
            siteName: site.file.site.name,
          };
          return wordsOf(await sendMail(body.mail, given, letter, config.mailCa));
        }
        mustBeCallable(body.text.url);
        return wordsOf(await sendText(body.text, given, body.to, textOf(notice(body.to)), ownServices));
      },
    }),
    route({
      method: 'post',
      path: '/api/receivers',
      confirms: true,
      may: 'set up',
      summary: 'Add a receiver. The secret that signs a webhook is created here and shown once',
      edits: true,
      body: object({ receiver: { ...receiverSchema, required: ['name', 'by', 'url'] } as const, secret }, ['secret']),
      answer: object({ id: text, secret: maybeText, version }),
      async handle({ request, body, visitor }) {
        const { receivers = [], people = [] } = site.file;
        const id = idOf(
          body.receiver.name,
          [...receivers, ...people].map((e) => e.id),
          'receiver',
        );
        const made = body.receiver.by === 'webhook' ? randomSecret() : undefined;
        const entry = { ...body.receiver, id };
        if (entry.by === 'webhook') mustBeCallable(entry.url);
        const also = await keepSecret(ofReceiver(entry as Receiver), made ?? body.secret ?? undefined);
        await site.edit([[['receivers', id], entry]], {
          by: visitor,
          what: `added the receiver ${entry.name}`,
          from: editedFrom(request),
          ...also,
        });
        return { id, secret: made ?? null, version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/receivers/:receiver',
      confirms: true,
      may: 'set up',
      summary: 'Change a receiver',
      edits: true,
      body: object({ receiver: receiverSchema, secret }, ['secret']),
      answer: object({ version }),
      async handle({ request, params, body, visitor }) {
        const before = find(params.receiver);
        if (body.receiver.id !== before.id)
          throw new Problem('bad-input', 'The id of a receiver cannot change.', `Send it with the id ${before.id}.`);
        if (body.receiver.by === 'webhook') mustBeCallable(body.receiver.url);
        const also = await keepSecret(ofReceiver(body.receiver as Receiver), body.secret);
        await site.edit([[['receivers', before.id], body.receiver]], {
          by: visitor,
          what: `changed the receiver ${before.name}`,
          from: editedFrom(request),
          ...also,
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'delete',
      path: '/api/receivers/:receiver',
      may: 'set up',
      summary: 'Remove a receiver, also from rules',
      edits: true,
      answer: object({ version }),
      async handle({ request, params, visitor }) {
        const gone = find(params.receiver);
        await site.edit(({ rules = [] }) => [...stopNotifying(rules, gone.id), [['receivers', gone.id], undefined]], {
          by: visitor,
          what: `removed the receiver ${gone.name}`,
          from: editedFrom(request),
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'post',
      path: '/api/receivers/:receiver/try',
      may: 'set up',
      summary: 'Send a test to a receiver and return its answer',
      answer: answered,
      async handle({ params, visitor }) {
        const { id, name, by } = find(params.receiver);
        await record.logbook.noteDeed(clock.now(), visitor, `tested ${name}`);
        return wordsOf(await channels.find((c) => c.name === by)!.send(id, notice(name)));
      },
    }),
  ];
}
