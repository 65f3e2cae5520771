// The detector, in a process of its own. Places that run in one program can share it: each has one look under way at most, and they take turns.

import path from 'node:path';
import { log } from '../base/log';
import { problemsOf, type Station } from '../base/station';
import type { DetectAnswer, DetectRequest } from './detect.worker';
import type { DetectorNature, Look } from './detector';
import type { Sighting } from '../base/picture';
import { restartingWorker } from './restarting-worker';
import { inProcess } from './thread';

/** What came of a look; lost where it died over it. */
export type Seen =
  | { readonly kind: 'found'; readonly sightings: readonly Sighting[]; readonly milliseconds: number }
  | { readonly kind: 'refused'; readonly wrong: string }
  | { readonly kind: 'lost' };

export type Detecting = Station & {
  /** What is known of it; undefined while it is not ready. */
  nature(): DetectorNature | undefined;
  look(look: Look): Promise<Seen>;
  /** Calls back whenever it has become ready, until the returned function is called. */
  onReady(listener: () => void): () => void;
  /** Resolves once it is ready, or has failed for the first time. */
  readonly ready: Promise<void>;
};

type Waiting = { readonly id: number; readonly look: Look; readonly done: (seen: Seen) => void };

const hangsMs = 30_000;

export function startDetecting(modelFolder: string | undefined): Detecting {
  let nature: DetectorNature | undefined;
  let failure: string | undefined;
  let looking: Waiting | undefined;
  let waiting: Waiting[] = [];
  let number = 0;
  let watchdog: NodeJS.Timeout | undefined;
  const listeners = new Set<() => void>();
  let isReady!: () => void;
  const ready = new Promise<void>((resolve) => (isReady = resolve));

  const end = (seen: Seen) => {
    clearTimeout(watchdog);
    const ended = looking;
    looking = undefined;
    ended?.done(seen);
  };
  const next = () => {
    if (looking || !nature) return;
    looking = waiting.shift();
    if (!looking) return;
    watchdog = setTimeout(() => thread.restart(`The detector did not answer for ${hangsMs / 1000} s.`), hangsMs);
    thread.post({ id: looking.id, look: looking.look });
  };
  const thread = restartingWorker<DetectRequest, DetectAnswer>({
    name: 'detector',
    file: path.join(__dirname, 'detect.worker.ts'),
    data: { model: modelFolder },
    start: inProcess,
    begun() {
      nature = undefined;
      const lost = waiting;
      waiting = [];
      end({ kind: 'lost' });
      lost.forEach(({ done }) => done({ kind: 'lost' }));
    },
    answered(answer) {
      if (answer.kind === 'ready') {
        failure = undefined;
        nature = answer.nature;
        isReady();
        listeners.forEach((l) => l());
        return next();
      }
      if (answer.kind === 'failed') {
        failure = answer.wrong;
        log.error({ why: failure }, 'nothing is detected');
        isReady();
        return thread.restart(failure);
      }
      if (answer.id !== looking?.id) return;
      end(answer.kind === 'refused' ? { kind: 'refused', wrong: answer.wrong } : answer);
      next();
    },
  });
  return {
    name: 'detector',
    nature: () => nature,
    look: (look) =>
      new Promise((done) => {
        waiting.push({ id: ++number, look, done });
        next();
      }),
    onReady(listener) {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    ready,
    problems: () => [
      ...problemsOf('outage', failure ?? thread.problem()),
      ...problemsOf(
        'notice',
        nature?.engine.why && `The detector runs in ${nature.engine.name}, at a quarter of the speed: ${nature.engine.why}.`,
      ),
    ],
    async close() {
      clearTimeout(watchdog);
      await thread.close();
    },
  };
}
