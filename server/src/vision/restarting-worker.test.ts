import { spawn } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { restartingWorker, type ThreadNeeds } from './restarting-worker';
import { inProcess, inThread } from './thread';
import { until } from '../testing/stations';

const file = path.join(__dirname, '..', 'testing', 'dying.worker.ts');

test.each<[string, ThreadNeeds<string, string>['start'], string, RegExp]>([
  ['thread', inThread, 'die', /^The detector stopped: out of memory$/],
  ['process', inProcess, 'crash', /^The detector stopped: it was ended by SIGABRT$/],
])(
  'a %s that dies is started again, says so meanwhile, and what is asked of the next one is answered',
  async (_name, start, dies, words) => {
    const heard: string[] = [];
    let begun = 0;
    const thread = restartingWorker<string, string>({
      name: 'detector',
      file,
      start,
      answered: (answer) => heard.push(answer),
      begun: () => begun++,
    });
    thread.post('one');
    await until(() => heard.includes('heard one') || undefined);
    expect([begun, thread.problem()]).toEqual([1, undefined]);
    thread.post(dies);
    await until(() => thread.problem());
    expect(thread.problem()).toMatch(words);
    await until(() => begun === 2 || undefined);
    thread.post('two');
    await until(() => heard.includes('heard two') || undefined);
    expect(thread.problem()).toBeUndefined();
    thread.restart('It hangs.');
    await until(() => begun === 3 || undefined);
    expect(thread.problem()).toBe('It hangs.');
    thread.post('three');
    await until(() => heard.includes('heard three') || undefined);
    await thread.close();
  },
);

test('a process ends with the one who started it, also where that was killed, and not by what a terminal says to all', async () => {
  const starts = `const { inProcess } = require(${JSON.stringify(path.join(__dirname, 'thread.ts'))});
    const own = inProcess(${JSON.stringify(file)}, {});
    own.onAnswer((answer) => console.log(answer));
    own.post('who');
    process.stdin.on('data', () => own.post('again'));`;
  const parent = spawn(process.execPath, ['--require', require.resolve('tsx/cjs'), '-e', starts], { stdio: ['pipe', 'pipe', 'inherit'] });
  const lines: string[] = [];
  createInterface({ input: parent.stdout }).on('line', (line) => lines.push(line));
  const pid = Number(await until(() => lines[0]));
  process.kill(pid, 'SIGINT');
  process.kill(pid, 'SIGTERM');
  parent.stdin.write('x');
  await until(() => lines.includes('heard again') || undefined);
  parent.kill('SIGKILL');
  await once(parent, 'exit');
  const isThere = () => {
    try {
      return process.kill(pid, 0);
    } catch {
      return false;
    }
  };
  await until(() => !isThere() || undefined);
});
