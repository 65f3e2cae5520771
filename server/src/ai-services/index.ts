// The AI services of the site, as one: what is asked goes to the first that is set up for it and has some of its day's budget left; the
// next one takes over where it fails. Whatever goes out is written down before it does.

import PQueue from 'p-queue';
import { ofService } from '../db/secrets';
import { costOf, servicesFor, spentWords, defaultAtOnce } from '@nibber/core/describing';
import type { Prompt, AiService, AiUse } from '@nibber/core/site';
import { startOfDay, wallTime, type Instant } from '@nibber/core/time';
import type { Config } from '../base/config';
import { station, type Station } from '../base/station';
import type { Ground } from '../db/ground';
import type { SentRow } from '../db/rows';
import { converse, questionTurn, type Description, type Goes, type Picture, type Reachable, statusWords } from './conversation';

export type { Description } from './conversation';

/** What is asked, about what, and for what it is written down. */
export type Question = {
  readonly prompt: Prompt;
  /** As the service reads them. */
  readonly words: string;
  readonly pictures: readonly Picture[];
  /** Of what is sent; `pictures` are the names of its files. */
  readonly of: Pick<SentRow, 'event' | 'camera' | 'why' | 'pictures'>;
  /** How long an answer is waited for altogether, ms. */
  readonly maxMs?: number;
};
export type Answer = Description & {
  /** Which one said it, and in how many seconds; the last that was asked where none did. */
  readonly service: string | null;
  readonly seconds: number;
  readonly cost: number | null;
};

export type AiServices = Station & {
  /** In the order in which they are asked. */
  services(use: AiUse): readonly AiService[];
  ask(use: AiUse, question: Question): Promise<Answer>;
  /** One that is named, whatever the order is; its budget holds. */
  askOne(service: AiService, use: AiUse, question: Question): Promise<Answer>;
  /** With its key. */
  reachable(service: Omit<AiService, 'id'>, id: string | undefined): Promise<Reachable>;
  /** Origins that may be called though they are private. */
  readonly own: readonly string[];
  /** Which cannot be asked now, and why. */
  resting(id: string): string | undefined;
  readonly startOfToday: () => Instant;
};

/** The one that is named where the program is started; it stands behind those of the site. */
export const atStart = 'at-start';

const firstRestMs = 5_000;
const longestRestMs = 5 * 60_000;

type Needs = Pick<Ground, 'record' | 'clock' | 'site' | 'secrets'> & { readonly config: Pick<Config, 'describer' | 'ownServices'> };

export function openAiServices({ record, clock, site, secrets, config }: Needs): AiServices {
  const named: AiService | undefined = config.describer && {
    id: atStart,
    name: 'Set at start',
    url: config.describer.url,
    model: config.describer.model,
  };
  const own = [...config.ownServices, ...(named ? [new URL(named.url).origin] : [])];
  const isInWords = new Set<string>();
  const isLimitNew = new Set<string>();
  const resting = new Map<string, { readonly fails: number; readonly until: number; readonly why: string }>();
  const queues = new Map<string, PQueue>();

  const services = (use: AiUse) => {
    const { ai } = site.file;
    // It needs no second place where the site has it, or says who is asked.
    const isThere = ai?.services?.some((s) => s.url.replace(/\/$/, '') === named?.url.replace(/\/$/, ''));
    const isLeftOut = isThere || use === 'asking' || (ai?.order?.[use] !== undefined && ai.services?.length);
    return [...servicesFor(ai, use), ...(named && !isLeftOut ? [named] : [])];
  };
  const startOfToday = () => {
    const { timezone } = site.file.site;
    return startOfDay(timezone, wallTime(timezone, clock.now()).day);
  };
  const reachable = async (service: Omit<AiService, 'id'>, id: string | undefined): Promise<Reachable> => ({
    ...service,
    key: id === atStart ? config.describer?.key : id === undefined ? undefined : await secrets.of(ofService({ id, url: service.url })),
  });
  /** As many at once as the service allows; the rest wait in turn. */
  function inTurn<T>({ id, atOnce = defaultAtOnce }: AiService, work: () => Promise<T>): Promise<T> {
    let queue = queues.get(id);
    if (!queue) queues.set(id, (queue = new PQueue()));
    queue.concurrency = atOnce;
    return queue.add(work);
  }
  const spentOf = async (service: AiService) => {
    if (!service.aDay) return undefined;
    const from = startOfToday();
    const today = (await record.sent.spent(from, Number.MAX_SAFE_INTEGER)).find((s) => s.serviceId === service.id);
    return spentWords(service, today ?? { answers: 0, cost: 0 });
  };

  async function askOne(service: AiService, use: AiUse, { prompt, words, pictures, of, maxMs }: Question): Promise<Answer> {
    const began = performance.now();
    let cost: number | null = null;
    const row = {
      ...of,
      service: new URL(service.url).origin,
      model: service.model,
      serviceId: service.id,
      use,
      currency: service.price?.currency ?? null,
    };
    const goes: Goes = async () => {
      const id = await record.sent.going({ ...row, at: clock.now() });
      return async ({ ms, said }) => {
        const usage = said.kind === 'content' ? said.usage : null;
        const price = costOf(service.price, usage);
        if (price !== null) cost = (cost ?? 0) + price;
        const shown =
          said.kind === 'content' ? said.content.slice(0, 1000) : said.kind === 'status' ? `It answered ${statusWords(said)}` : said.why;
        await record.sent.went(id, {
          ms,
          outcome: said.kind === 'content' ? 'answered' : 'failed',
          said: shown,
          tokensIn: usage?.tokensIn ?? null,
          tokensOut: usage?.tokensOut ?? null,
          cost: price,
        });
      };
    };
    const spent = await spentOf(service);
    const description: Description = spent
      ? { ok: false, why: `${service.name} is paused: ${spent}.`, isService: true }
      : await inTurn(service, async () => {
          const waited = performance.now() - began;
          if (maxMs !== undefined && waited >= maxMs) return { ok: false, why: `${service.name} was busy for too long.`, isService: false };
          const exchange = {
            service: await reachable(service, service.id),
            own,
            maxMs: maxMs === undefined ? undefined : maxMs - waited,
            goes,
          };
          const { id } = service;
          const shape = {
            isInWords: isInWords.has(id),
            takesNone: () => void isInWords.add(id),
            isLimitNew: isLimitNew.has(id),
            wantsNewLimit: () => void isLimitNew.add(id),
          };
          return converse(exchange, prompt, questionTurn(words, pictures), shape);
        });
    if (!spent) {
      // Whoever was not given its time is not at fault.
      const isCutShort = maxMs !== undefined && performance.now() - began >= maxMs - 10;
      if (description.ok || !description.isService) resting.delete(service.id);
      else if (!isCutShort) {
        const fails = (resting.get(service.id)?.fails ?? 0) + 1;
        resting.set(service.id, {
          fails,
          until: clock.machine() + Math.min(longestRestMs, firstRestMs * 2 ** (fails - 1)),
          why: description.why,
        });
      }
    }
    return { ...description, service: service.id, seconds: Math.round(performance.now() - began) / 1000, cost };
  }

  const restingNow = (id: string) => {
    const rest = resting.get(id);
    return rest && rest.until > clock.machine() ? rest.why : undefined;
  };

  return {
    ...station('describing', {}),
    services,
    own,
    reachable,
    startOfToday,
    askOne,
    resting: restingNow,
    async ask(use, question) {
      const all = services(use);
      const none = (why: string): Answer => ({ ok: false, why, isService: true, service: null, seconds: 0, cost: null });
      if (all.length === 0) return none('No AI service is set up.');
      // One that failed a moment ago is left alone while there is another; where there is none, it is asked all the same.
      const awake = all.filter((s) => restingNow(s.id) === undefined);
      const began = performance.now();
      let last = none('');
      const whys: string[] = [];
      for (const service of awake.length ? awake : all) {
        const left = question.maxMs === undefined ? undefined : question.maxMs - (performance.now() - began);
        if (left !== undefined && left <= 0) break;
        last = await askOne(service, use, left === undefined ? question : { ...question, maxMs: left });
        if (last.ok) return last;
        whys.push(last.why);
      }
      return whys.length > 1 ? { ...last, why: [...new Set(whys)].join(' ') } : last;
    },
  };
}
