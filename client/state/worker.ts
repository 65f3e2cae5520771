// The service worker, from the page's side: a new version is taken at the next start and said, and what a notification opens is gone to.

const versionKey = 'nibber version';
/** A version of the application is named by the script that it begins with. */
const version = (): string | undefined => document.querySelector<HTMLScriptElement>('script[src*="/entry-"]')?.src;

/** The new version comes in by loading again. Right after the start no one has begun anything; later it is for the person to say when. */
const startMs = 10_000;

export type WorkerNeeds = {
  readonly go: (to: string) => void;
  /** A new version has been taken. */
  readonly updated: () => void;
  /** One could be: it is taken where `load` is called. */
  readonly offered: (load: () => void) => void;
};

const workers = (): ServiceWorkerContainer | undefined => globalThis.navigator?.serviceWorker;

/** Called once, when the page starts. @returns what stops listening */
export function startWorker({ go, updated, offered }: WorkerNeeds): () => void {
  const container = workers();
  if (!container) return () => {};
  const [last, now] = [localStorage.getItem(versionKey), version()];
  if (now && now !== last) localStorage.setItem(versionKey, now);
  if (now && last && now !== last) updated();
  const had = container.controller !== null;
  const onMessage = ({ data }: MessageEvent<{ kind?: string; to?: string }>) => data.kind === 'go' && data.to && go(data.to);
  const onChange = () => {
    // The first one takes over a page that is its own already.
    if (!had) return;
    const load = () => location.reload();
    if (performance.now() < startMs) load();
    else offered(load);
  };
  container.addEventListener('message', onMessage);
  container.addEventListener('controllerchange', onChange);
  const register = async () => {
    const registration = await container.register('/sw.js', { updateViaCache: 'none' });
    // One that came while the page was open last waits until now: no one loses what is being written.
    registration.waiting?.postMessage({ kind: 'take over' });
  };
  // Without it everything works except alerts and offline use.
  const begin = () => void register().catch(() => {});
  if (document.readyState === 'complete') begin();
  else window.addEventListener('load', begin, { once: true });
  return () => {
    container.removeEventListener('message', onMessage);
    container.removeEventListener('controllerchange', onChange);
  };
}

/** Whoever signs out leaves nothing of theirs in this browser. */
export const forgetSaved = (): void => workers()?.controller?.postMessage({ kind: 'forget' });
