// The AI services: set up, tried, put in order, what each was asked and cost; and every picture that left the machine.

import { classes } from '@nibber/core/boxes';
import { aiProblems, type SiteEdit } from '@nibber/core/check';
import { promptSchema, aiServiceSchema, aiUses, type AiService, type AiUse } from '@nibber/core/site';
import { startOfDay, wallTime } from '@nibber/core/time';
import { Problem } from '@nibber/core/problem';
import { idOf } from '@nibber/core/words';
import { atStart } from '../../ai-services';
import { ofService } from '../../db/secrets';
import { tryService } from '../../ai-services/trial';
import { mayBeCalled } from '../../net/public-address';
import { sentPicture, state, trial } from './answers';
import { editedFrom, route, type Route } from '../route';
import { list, maybeText, object, oneOf, orNull, text } from '../schema';
import type { Services } from '../services';
import { version } from '../shapes';

const sentPage = 30;
const daysBack = 7;
const lastAnswers = 3;
/** Null takes it away; where it is left out, the present one stays. */
const key = orNull({ type: 'string', minLength: 1, maxLength: 500, pattern: '^[^\\r\\n]*$' } as const);
const unnamed = { ...aiServiceSchema, required: ['name', 'url', 'model'] } as const;

type Used = Pick<Services, 'config' | 'record' | 'site' | 'canMakeClips' | 'secrets' | 'clock' | 'aiServices'>;

export function aiServiceRoutes({ config, record, site, canMakeClips, secrets, clock, aiServices }: Used): Route[] {
  /** @throws Problem 'bad-input' for what must not be called from here, or cannot be used */
  const mustBeUsable = (given: Omit<AiService, 'id'>) => {
    if (!mayBeCalled(given.url, config.ownServices))
      throw new Problem(
        'bad-input',
        'This address is not allowed.',
        'Use a public https address. To allow a local one, add it to NIBBER_OWN_SERVICES.',
      );
    const problems = aiProblems({ ai: { services: [{ ...given, id: 'x' }] } });
    if (problems.length)
      throw new Problem(
        'bad-input',
        `It cannot be used: it ${problems.map((f) => f.wrong).join(', ')}.`,
        `Give ${problems[0]!.allowed}.`,
        problems,
      );
  };
  const find = (id: string) => {
    const found = site.file.ai?.services?.find((s) => s.id === id);
    if (!found) throw new Problem('not-found', `AI service ${id} not found.`, 'Reload the page.');
    return found;
  };
  const keepKey = (service: Pick<AiService, 'id' | 'url'>, given: string | null | undefined) =>
    given === undefined
      ? {}
      : {
          also: (transaction: Parameters<typeof secrets.give>[2]) =>
            given === null ? secrets.drop(ofService(service).of, transaction) : secrets.give(ofService(service), given, transaction),
        };
  /** The beginnings of the last days, oldest first, and the end of today. */
  const days = () => {
    const { timezone } = site.file.site;
    const today = wallTime(timezone, aiServices.startOfToday()).day;
    return Array.from({ length: daysBack }, (_, i) => today - daysBack + 1 + i).map((day) => ({
      from: startOfDay(timezone, day),
      to: startOfDay(timezone, day + 1),
    }));
  };

  return [
    route({
      method: 'get',
      path: '/api/ai-services',
      may: 'set up',
      summary: 'AI services: settings, performance, usage and cost by day, and order of use',
      answer: state,
      async handle() {
        const since = await record.sent.since(clock.now() - 86_400_000);
        const spans = await Promise.all(days().map(async ({ from, to }) => ({ day: from, of: await record.sent.spent(from, to) })));
        const named =
          aiServices.services('descriptions').find((s) => s.id === atStart) ?? aiServices.services('asking').find((s) => s.id === atStart);
        const all = [...(site.file.ai?.services ?? []), ...(named ? [named] : [])];
        const services = await Promise.all(
          all.map(async (s) => {
            const own = since.filter((r) => r.serviceId === s.id);
            const took = own.flatMap((r) => (r.outcome === 'answered' && r.ms !== null ? r.ms / 1000 : [])).sort((a, b) => a - b);
            const byDay = spans.map(({ day, of }) => {
              const { answers = 0, failed = 0, cost = 0 } = of.find((d) => d.serviceId === s.id) ?? {};
              return { day, answers, failed, cost };
            });
            const { day: _, ...today } = byDay.at(-1)!;
            const isNamedAtStart = s.id === atStart;
            return {
              // The address alone where it was named outside: a key may stand in the rest.
              service: isNamedAtStart ? { ...s, url: new URL(s.url).origin } : s,
              isNamedAtStart,
              hasKey: isNamedAtStart ? config.describer?.key !== undefined : (await secrets.of(ofService(s))) !== undefined,
              resting: aiServices.resting(s.id) ?? null,
              recentFrames: {
                sent: own.length,
                failed: own.filter((r) => r.outcome === 'failed').length,
                medianSeconds: took[took.length >> 1] ?? null,
                worstSeconds: took.at(-1) ?? null,
              },
              today,
              days: byDay,
              last: (await record.sent.lastAnswers(s.id, lastAnswers)).map(({ id, at, outcome, said, ms }) => ({
                id,
                at,
                outcome,
                said,
                seconds: ms === null ? null : ms / 1000,
              })),
            };
          }),
        );
        const { waiting, lastError } = await record.jobs.waiting('describe');
        const order = Object.fromEntries(aiUses.map((use) => [use, aiServices.services(use).map((s) => s.id)])) as Record<AiUse, string[]>;
        return { services, order, waiting, problem: lastError, canMakeClips, version: site.version };
      },
    }),
    route({
      method: 'post',
      path: '/api/ai-services',
      confirms: true,
      may: 'set up',
      summary: 'Add an AI service. Its key is stored encrypted and never returned',
      edits: true,
      body: object({ service: unnamed, key }, ['key']),
      answer: object({ id: text, version }),
      async handle({ request, body, visitor }) {
        mustBeUsable(body.service);
        const taken = [...(site.file.ai?.services ?? []).map((s) => s.id), atStart, 'order', 'prompts', 'try', 'sent'];
        const id = idOf(body.service.name, taken, 'service');
        const entry = { ...body.service, id };
        await site.edit([[['ai', 'services', id], entry]], {
          by: visitor,
          what: `added the AI service ${entry.name}`,
          from: editedFrom(request),
          ...keepKey(entry, body.key ?? undefined),
        });
        return { id, version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/ai-services/order',
      may: 'set up',
      summary: 'Set which AI services are used for a purpose, in order; null: all, in listed order',
      edits: true,
      body: object({ use: oneOf(...aiUses), services: orNull(list(text)) }),
      answer: object({ version }),
      async handle({ request, body: { use, services }, visitor }) {
        await site.edit([[['ai', 'order', use], services?.filter((id) => id !== atStart) ?? undefined]], {
          by: visitor,
          what: `changed the AI services for ${use}`,
          from: editedFrom(request),
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/ai-services/prompts',
      may: 'set up',
      summary: 'Set the default description fields of a class; null: a sentence',
      edits: true,
      body: object({ class: oneOf(...classes), prompt: orNull(promptSchema) }),
      answer: object({ version }),
      async handle({ request, body: { class: cls, prompt }, visitor }) {
        const what = `changed the description fields of ${cls}`;
        await site.edit([[['ai', 'prompts', cls], prompt ?? undefined]], { by: visitor, what, from: editedFrom(request) });
        return { version: site.version };
      },
    }),
    route({
      method: 'post',
      path: '/api/ai-services/try',
      may: 'set up',
      summary: 'Test an AI service, saved or not, with a drawn picture: connection, login, model, picture, answer format',
      body: object({ service: unnamed, key, id: text }, ['key', 'id']),
      answer: trial,
      async handle({ body, visitor }) {
        mustBeUsable(body.service);
        await record.logbook.noteDeed(clock.now(), visitor, `tested ${body.service.name}`);
        if (body.id !== undefined) find(body.id);
        const key =
          body.id === undefined
            ? (body.key ?? undefined)
            : await secrets.given(ofService({ id: body.id, url: body.service.url }), body.key);
        return tryService({ ...(await aiServices.reachable(body.service, undefined)), key }, config.ownServices);
      },
    }),
    route({
      method: 'put',
      path: '/api/ai-services/:service',
      confirms: true,
      may: 'set up',
      summary: 'Change an AI service; on another host its key must be entered again',
      edits: true,
      body: object({ service: aiServiceSchema, key }, ['key']),
      answer: object({ version }),
      async handle({ request, params, body, visitor }) {
        const before = find(params.service);
        if (body.service.id !== before.id)
          throw new Problem('bad-input', 'The id of an AI service cannot change.', `Send it with the id ${before.id}.`);
        mustBeUsable(body.service);
        await secrets.given(ofService(body.service), body.key);
        await site.edit([[['ai', 'services', before.id], body.service]], {
          by: visitor,
          what: `changed ${before.name}`,
          from: editedFrom(request),
          ...keepKey(body.service, body.key),
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'delete',
      path: '/api/ai-services/:service',
      may: 'set up',
      summary: 'Remove an AI service',
      edits: true,
      answer: object({ version }),
      async handle({ request, params, visitor }) {
        const gone = find(params.service);
        const { order = {} } = site.file.ai ?? {};
        const without = (Object.entries(order) as [string, string[]][]).flatMap(([use, ids]): SiteEdit[] =>
          ids.includes(gone.id) ? [[['ai', 'order', use], ids.filter((id) => id !== gone.id)]] : [],
        );
        await site.edit([...without, [['ai', 'services', gone.id], undefined]], {
          by: visitor,
          what: `removed the AI service ${gone.name}`,
          from: editedFrom(request),
          ...keepKey(gone, null),
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'get',
      path: '/api/ai-services/sent',
      may: 'set up',
      summary: 'Pictures sent to AI services, newest first; `before` is `more` of the previous page',
      query: object({ before: { type: 'string', pattern: '^\\d{1,15}$' } }, ['before']),
      answer: object({ items: list(sentPicture), more: maybeText }),
      async handle({ query }) {
        const rows = await record.sent.page(query.before === undefined ? undefined : Number(query.before), sentPage + 1);
        const kept = await record.media.of(
          'event',
          rows.flatMap((r) => r.event ?? []),
        );
        const items = rows.slice(0, sentPage).map(({ ms, pictures, ...row }) => {
          // What was forgotten, or drawn again with another mask, is not shown again.
          const held = new Set(row.event === null ? [] : Object.values(kept.get(row.event) ?? {}).map((file) => file?.name));
          const there = pictures.filter((name) => held.has(name));
          const cameraName = site.compiled.cameras.get(row.camera)?.name ?? row.camera;
          const { id, at, event, camera, service, model, use, why, cost, currency, outcome, said } = row;
          return {
            id,
            at,
            event,
            camera,
            cameraName,
            service,
            model,
            use,
            why,
            cost,
            currency,
            outcome,
            said,
            seconds: ms === null ? null : ms / 1000,
            pictures: there.map((name) => `/pictures/${name}`),
            isStored: there.length === pictures.length,
          };
        });
        return { items, more: rows.length > sentPage ? String(items.at(-1)!.id) : null };
      },
    }),
  ];
}
