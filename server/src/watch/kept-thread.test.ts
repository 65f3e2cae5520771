import path from 'node:path';
import { keepThread } from './kept-thread';
import { until } from '../testing/stations';

test('a thread that dies is started again, says so meanwhile, and what is asked of the next one is answered', async () => {
  const heard: string[] = [];
  let begun = 0;
  const thread = keepThread<string, string>({
    name: 'detector',
    file: path.join(__dirname, '..', 'testing', 'dying.worker.ts'),
    answered: (answer) => heard.push(answer),
    begun: () => begun++,
  });
  thread.post('one');
  await until(() => heard.includes('heard one') || undefined);
  expect([begun, thread.trouble()]).toEqual([1, undefined]);
  thread.post('die');
  await until(() => thread.trouble());
  expect(thread.trouble()).toBe('The detector stopped: out of memory');
  await until(() => begun === 2 || undefined);
  thread.post('two');
  await until(() => heard.includes('heard two') || undefined);
  expect(thread.trouble()).toBeUndefined();
  thread.restart('It hangs.');
  await until(() => begun === 3 || undefined);
  expect(thread.trouble()).toBe('It hangs.');
  thread.post('three');
  await until(() => heard.includes('heard three') || undefined);
  await thread.close();
});
