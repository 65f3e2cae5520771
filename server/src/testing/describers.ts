// A AI service for tests: the chat-completions shape, answering as each test says.

import { createServer } from 'node:http';

export type AskedOfIt = {
  readonly model: string;
  readonly response_format?: { readonly json_schema: { readonly schema: { readonly required: string[] } } };
  readonly messages: readonly { readonly role: string; readonly content: unknown }[];
  readonly headers: { readonly [name: string]: string | string[] | undefined };
};
/** `raw` is sent as it stands; `afterMs` is waited for first. */
export type Answering = {
  readonly status?: number;
  readonly content?: unknown;
  readonly usage?: object;
  readonly raw?: string;
  readonly afterMs?: number;
};

export async function testDescriber(answer: (asked: AskedOfIt, number: number) => Answering | Promise<Answering>) {
  const asked: AskedOfIt[] = [];
  const server = createServer((request, response) => {
    let text = '';
    request.on('data', (d) => (text += d));
    request.on('end', async () => {
      asked.push({ ...JSON.parse(text), headers: request.headers });
      const { status = 200, content, usage, raw, afterMs = 0 } = await answer(asked.at(-1)!, asked.length);
      if (afterMs) await new Promise((r) => setTimeout(r, afterMs));
      response.writeHead(status, { 'content-type': 'application/json' });
      response.end(raw ?? JSON.stringify({ choices: [{ message: { content } }], ...(usage ? { usage } : {}) }));
    });
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const origin = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  return { origin, url: `${origin}/v1`, asked, close: () => (server.closeAllConnections(), server.close()) };
}
