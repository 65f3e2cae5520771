// The request by which a text message is given to a gateway. Whatever a gateway wants is written down with placeholders; each is filled in as
// the place it stands in needs it: percent-encoded in an address and in a form (WHATWG URL), escaped in JSON (RFC 8259), as it is elsewhere.

import type { Channels } from '../site';
import type { FieldProblem } from '../problem';

export type Gateway = NonNullable<Channels['text']>;
export type GatewayValues = { readonly to: string; readonly text: string; readonly secret: string };
export type GatewayRequest = {
  readonly url: string;
  readonly method: 'POST' | 'PUT' | 'GET';
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | undefined;
};

const names = ['to', 'text', 'secret'] as const;
const form = /\{(to|text|secret)\}/g;

const asJson = (value: string) => JSON.stringify(value).slice(1, -1);
/** A header holds no line ends and no other control characters (RFC 9110, 5.5). */
const asHeader = (value: string) => value.replace(/[\u0000-\u001f\u007f]+/g, ' ');

const fill = (text: string, values: GatewayValues, as: (value: string) => string) =>
  text.replace(form, (_whole, name: keyof GatewayValues) => as(values[name]));

export function gatewayRequest(gateway: Gateway, values: GatewayValues): GatewayRequest {
  const { url, method = 'POST', headers = {}, body } = gateway;
  const type = Object.entries(headers).find(([name]) => name.toLowerCase() === 'content-type')?.[1] ?? '';
  const asBody = /json/i.test(type) ? asJson : /x-www-form-urlencoded/i.test(type) ? encodeURIComponent : (value: string) => value;
  return {
    url: fill(url, values, encodeURIComponent),
    method,
    headers: Object.fromEntries(Object.entries(headers).map(([name, value]) => [name, fill(value, values, asHeader)])),
    body: method === 'GET' || body === undefined ? undefined : fill(body, values, asBody),
  };
}

/** Whether an answer means that the message was taken. */
export const isTaken = (gateway: Gateway, status: number, answer: string): boolean =>
  status >= 200 && status < 300 && (gateway.accepted === undefined || answer.includes(gateway.accepted));

/** What is missing for a gateway to be of use. Paths are inside it. */
export function gatewayProblems(gateway: Gateway): FieldProblem[] {
  const whole = [gateway.url, gateway.method === 'GET' ? '' : (gateway.body ?? ''), ...Object.values(gateway.headers ?? {})].join(' ');
  const type = Object.entries(gateway.headers ?? {}).find(([name]) => name.toLowerCase() === 'content-type')?.[1] ?? '';
  const missing = names.filter((n) => n !== 'secret' && !whole.includes(`{${n}}`));
  const problems: FieldProblem[] = missing.map((n) => ({
    path: '',
    wrong: `{${n}} is missing`,
    allowed: `{${n}} in the address, a header or the body`,
  }));
  // If a placeholder could choose the host, the recipient's data would.
  if (/^https?:\/\/[^/?#]*\{/.test(gateway.url))
    problems.push({ path: 'url', wrong: 'has a placeholder for its host', allowed: 'placeholders after the host' });
  if (/json/i.test(type) && gateway.body !== undefined && !isJson(fill(gateway.body, { to: 'a', text: 'b', secret: 'c' }, asJson)))
    problems.push({
      path: 'body',
      wrong: 'is not valid JSON, as its content type requires',
      allowed: '{ "to": "{to}", "text": "{text}" }',
    });
  return problems;
}

const isJson = (text: string) => {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
};
