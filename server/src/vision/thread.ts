// Starts a worker of this program in a thread or in a process of its own. Its files are TypeScript until they are put together (scripts/whole.mjs).

import { fork, type ChildProcess } from 'node:child_process';
import { parentPort, Worker, workerData } from 'node:worker_threads';

const execArgvOf = (file: string): string[] => (file.endsWith('.ts') ? ['--require', require.resolve('tsx/cjs')] : []);

export const startThread = (file: string, data: unknown = {}): Worker =>
  new Worker(file, { workerData: data, ...(file.endsWith('.ts') ? { execArgv: execArgvOf(file) } : {}) });

/** What a worker is to the one who started it, whether it is a thread or a process. */
export type Started<Request, Answer> = {
  post(request: Request): void;
  onAnswer(listener: (answer: Answer) => void): void;
  /** Says why it ended; undefined where it did not say. */
  onEnd(listener: (why: string | undefined) => void): void;
  /** At once, whatever it is doing. */
  end(): Promise<void>;
};

export function inThread<Request, Answer>(file: string, data: unknown): Started<Request, Answer> {
  const worker = startThread(file, data);
  let why: string | undefined;
  worker.on('error', (error: Error) => (why = error.message));
  return {
    post: (request) => worker.postMessage(request),
    onAnswer: (listener) => worker.on('message', listener),
    onEnd: (listener) => worker.on('exit', () => listener(why)),
    end: async () => void (await worker.terminate()),
  };
}

/** What can crash as a whole, as native libraries can, takes nothing else with it. */
export function inProcess<Request, Answer>(file: string, data: unknown): Started<Request, Answer> {
  const child: ChildProcess = fork(file, [JSON.stringify(data)], {
    execArgv: execArgvOf(file),
    serialization: 'advanced',
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  let why: string | undefined;
  const ended = new Promise<void>((resolve) => {
    child.on('error', (error) => {
      why = error.message;
      // One that never began does not end either.
      if (child.pid === undefined) resolve();
    });
    child.on('exit', (code, signal) => {
      why ??= signal ? `it was ended by ${signal}` : `it ended with ${code}`;
      resolve();
    });
  });
  return {
    // It may have ended already, which is reported separately.
    post: (request) => void (child.connected && child.send(request as object, () => {})),
    onAnswer: (listener) => child.on('message', (answer) => listener(answer as Answer)),
    onEnd: (listener) => void ended.then(() => listener(why)),
    async end() {
      child.kill('SIGKILL');
      await ended;
    },
  };
}

/** The same from within a worker. A process ends with the one who started it. */
export function startedBy<Request, Answer>(): {
  readonly data: unknown;
  say(answer: Answer): void;
  onRequest(listener: (request: Request) => void): void;
} {
  if (parentPort) {
    const port = parentPort;
    return {
      data: workerData as unknown,
      say: (answer) => port.postMessage(answer),
      onRequest: (listener) => port.on('message', listener),
    };
  }
  process.on('disconnect', () => process.exit());
  // What a terminal says to all of a program is for the one who started it to hear.
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => {});
  return {
    data: JSON.parse(process.argv[2] ?? '{}') as unknown,
    // Where the one who started it has just been killed, no one is there to hear it, and it ends with the line.
    say: (answer) => void (process.connected && process.send!(answer, undefined, undefined, () => {})),
    onRequest: (listener) => process.on('message', listener),
  };
}
