// The DevTools protocol of a running Chromium, where WebDriver has no word for what is asked: its service workers, and what is pushed to them.

import { WebSocket } from 'ws';
import type { WebDriver } from 'selenium-webdriver';

export type DevTools = {
  send<T>(method: string, params?: object, session?: string): Promise<T>;
  /** The last of an event that was heard, once it is as asked. */
  heard<T>(event: string, isIt: (params: T) => boolean): Promise<T>;
  close(): void;
};

type Message = { id?: number; method?: string; params?: unknown; result?: unknown; error?: { message: string } };

export async function openDevTools(driver: WebDriver): Promise<DevTools> {
  const address = (((await driver.getCapabilities()).get('goog:chromeOptions') as { debuggerAddress: string }) ?? {}).debuggerAddress;
  const { webSocketDebuggerUrl } = (await (await fetch(`http://${address}/json/version`)).json()) as { webSocketDebuggerUrl: string };
  const line = new WebSocket(webSocketDebuggerUrl);
  await new Promise<void>((ready, failed) => line.once('open', ready).once('error', failed));
  const asked = new Map<number, { done: (result: never) => void; failed: (error: Error) => void }>();
  const last: { method: string; params: unknown }[] = [];
  const listeners = new Set<() => void>();
  let next = 1;
  line.on('message', (data) => {
    const { id, method, params, result, error } = JSON.parse(String(data)) as Message;
    if (id !== undefined) {
      const one = asked.get(id);
      asked.delete(id);
      if (error) one?.failed(new Error(error.message));
      else one?.done(result as never);
    } else if (method) {
      last.push({ method, params });
      listeners.forEach((l) => l());
    }
  });
  return {
    send: (method, params = {}, sessionId) =>
      new Promise((done, failed) => {
        const id = next++;
        asked.set(id, { done, failed });
        line.send(JSON.stringify({ id, method, params, ...(sessionId ? { sessionId } : {}) }));
      }),
    heard: <T>(event: string, isIt: (params: T) => boolean) =>
      new Promise<T>((resolve) => {
        const look = () => {
          const found = last.findLast((l) => l.method === event && isIt(l.params as T));
          if (!found) return;
          listeners.delete(look);
          resolve(found.params as T);
        };
        listeners.add(look);
        look();
      }),
    close: () => line.close(),
  };
}

type Target = { targetId: string; type: string; url: string };

/** A session with the page that is open. */
export async function attachToPage(tools: DevTools, origin: string): Promise<string> {
  const { targetInfos } = await tools.send<{ targetInfos: Target[] }>('Target.getTargets');
  const page = targetInfos.find((t) => t.type === 'page' && t.url.startsWith(origin))!;
  return (await tools.send<{ sessionId: string }>('Target.attachToTarget', { targetId: page.targetId, flatten: true })).sessionId;
}

/** Runs code in the service worker of an origin, as long as that runs. */
export async function inWorker<T>(tools: DevTools, origin: string, code: string): Promise<T> {
  const { targetInfos } = await tools.send<{ targetInfos: Target[] }>('Target.getTargets');
  const worker = targetInfos.find((t) => t.type === 'service_worker' && t.url.startsWith(origin));
  if (!worker) throw new Error(`no service worker of ${origin} runs: ${targetInfos.map((t) => `${t.type} ${t.url}`).join(', ')}`);
  const { sessionId } = await tools.send<{ sessionId: string }>('Target.attachToTarget', { targetId: worker.targetId, flatten: true });
  const expression = `(async () => { ${code} })()`;
  const { result, exceptionDetails } = await tools.send<{
    result: { value: T };
    exceptionDetails?: { text: string; exception?: { description?: string } };
  }>('Runtime.evaluate', { expression, awaitPromise: true, returnByValue: true }, sessionId);
  await tools.send('Target.detachFromTarget', { sessionId });
  if (exceptionDetails) throw new Error(exceptionDetails.exception?.description ?? exceptionDetails.text);
  return result.value;
}
