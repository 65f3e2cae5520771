import { execFile } from 'node:child_process';
import path from 'node:path';
import { promisify } from 'node:util';
import { openFailures } from './failures';

test('a failure is a problem until an hour has passed without another one', () => {
  let at = 0;
  const failures = openFailures(() => at);
  expect(failures.problems().map((p) => p.text)).toEqual([]);
  failures.report('Tracking', new Error('no such box'));
  failures.report('Tracking', 'no number');
  failures.report('Clips', new Error('no room'));
  expect(failures.problems().map((p) => p.text)).toEqual([
    'Tracking failed 2 times: no number. Restart Nibber if this continues.',
    'Clips failed 1 time: no room. Restart Nibber if this continues.',
  ]);
  at = 3_500_000;
  failures.report('Clips', new Error('no room'));
  at = 3_700_000;
  expect(failures.problems().map((p) => p.text)).toEqual(['Clips failed 2 times: no room. Restart Nibber if this continues.']);
});

test('what nothing else has caught is reported, and the program runs on', async () => {
  const program = `
    const { catchUncaught } = require('./server/src/base/failures.ts');
    catchUncaught({ report: (station, thrown) => console.log(station, thrown.message) });
    setTimeout(() => { throw new Error('a timer') }, 1);
    setTimeout(() => void Promise.reject(new Error('a promise')), 2);
    setTimeout(() => console.log('still here'), 50);`;
  const { stdout } = await promisify(execFile)(process.execPath, ['--require', 'tsx/cjs', '-e', program], {
    cwd: path.join(__dirname, '..', '..', '..'),
  });
  expect(stdout.trim().split('\n')).toEqual(['Nibber a timer', 'Nibber a promise', 'still here']);
});
