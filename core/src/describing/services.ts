// AI services: which is asked for what, what an answer costs, and when a day's budget is spent.

import type { AiService, AiUse, SiteFile } from '../site';
import { counted } from '../words';

type Ai = SiteFile['ai'];

/** Those that are set up for a use, the first to be asked first. What the record is asked goes to no one who is not named for it: the question is understood here. */
export function servicesFor(ai: Ai, use: AiUse): readonly AiService[] {
  const { services = [], order = {} } = ai ?? {};
  const own = order[use];
  if (!own && use === 'asking') return [];
  return own ? own.flatMap((id) => services.find((s) => s.id === id) ?? []) : services;
}

export const defaultSeconds = 20;
export const defaultAtOnce = 4;

/** What a service says that it used; null where it says nothing that can be meant. */
export type Usage = { readonly tokensIn: number; readonly tokensOut: number };

export function usageIn(answer: unknown): Usage | null {
  const said = (answer as { usage?: { prompt_tokens?: unknown; completion_tokens?: unknown } } | null)?.usage;
  const [tokensIn, tokensOut] = [said?.prompt_tokens, said?.completion_tokens];
  const isCount = (n: unknown): n is number => typeof n === 'number' && Number.isInteger(n) && n >= 0 && n <= 100_000_000;
  return isCount(tokensIn) && isCount(tokensOut) ? { tokensIn, tokensOut } : null;
}

/** In the currency of the price; null where there is none, or the service does not say what it used. */
export const costOf = (price: AiService['price'], usage: Usage | null): number | null =>
  price && usage ? (usage.tokensIn * price.in + usage.tokensOut * price.out) / 1000 : null;

/** What of a day's budget is spent, in words; undefined while there is some left. */
export function spentWords({ aDay, price }: AiService, today: { readonly answers: number; readonly cost: number }): string | undefined {
  if (aDay?.answers !== undefined && today.answers >= aDay.answers)
    return `its daily limit of ${counted(aDay.answers, 'answer')} is reached`;
  if (aDay?.money !== undefined && today.cost >= aDay.money)
    return `its daily limit of ${aDay.money} ${price?.currency ?? ''} is reached`.replace('  ', ' ');
  return undefined;
}

/** Headers as they are sent: the usual one where none of them holds the key. */
export function headersWith(headers: AiService['headers'], key: string | undefined): Record<string, string> {
  const own = Object.entries(headers ?? {}) as [string, string][];
  const filled = Object.fromEntries(own.map(([name, value]) => [name.toLowerCase(), value.replaceAll('{key}', key ?? '')]));
  const holdsKey = own.some(([, value]) => value.includes('{key}'));
  return { ...(key && !holdsKey ? { authorization: `Bearer ${key}` } : {}), ...filled };
}
