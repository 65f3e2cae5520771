// The service worker, from the page's side: a new version is taken at the next start and said, and what a notification opens is gone to.

const updatedKey = 'nibber updated';

export type WorkerNeeds = { readonly go: (to: string) => void; readonly updated: () => void };

const workers = (): ServiceWorkerContainer | undefined => globalThis.navigator?.serviceWorker;

/** Called once, when the page starts. @returns what stops listening */
export function startWorker({ go, updated }: WorkerNeeds): () => void {
  const container = workers();
  if (!container) return () => {};
  if (sessionStorage.getItem(updatedKey)) {
    sessionStorage.removeItem(updatedKey);
    updated();
  }
  const had = container.controller !== null;
  const onMessage = ({ data }: MessageEvent<{ kind?: string; to?: string }>) => data.kind === 'go' && data.to && go(data.to);
  const onChange = () => {
    // The first one takes over a page that is its own already.
    if (!had) return;
    sessionStorage.setItem(updatedKey, 'yes');
    location.reload();
  };
  container.addEventListener('message', onMessage);
  container.addEventListener('controllerchange', onChange);
  const register = async () => {
    const registration = await container.register('/sw.js', { updateViaCache: 'none' });
    // One that came while the page was open last waits until now: nobody loses what is being written.
    registration.waiting?.postMessage({ kind: 'take over' });
  };
  // Without it everything works but being told and being offline.
  const begin = () => void register().catch(() => {});
  if (document.readyState === 'complete') begin();
  else window.addEventListener('load', begin, { once: true });
  return () => {
    container.removeEventListener('message', onMessage);
    container.removeEventListener('controllerchange', onChange);
  };
}

/** Whoever signs out leaves nothing of theirs in this browser. */
export const forgetKept = (): void => workers()?.controller?.postMessage({ kind: 'forget' });
