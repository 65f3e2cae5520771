import { fromNtp, followTimeServer, toNtp } from '@nibber/server/base/clock';
import { timeServer } from './sntp';

// RFC 5905, figure 4: 1 January 1970 is second 2,208,988,800 of the NTP era that began in 1900.
test('NTP seconds count from 1900', () => {
  expect(toNtp(0)).toEqual({ seconds: 2_208_988_800, fraction: 0 });
  const packet = Buffer.alloc(8);
  const { seconds, fraction } = toNtp(1_780_347_600_250);
  packet.writeUInt32BE(seconds, 0);
  packet.writeUInt32BE(fraction, 4);
  expect(fromNtp(packet, 0)).toBe(1_780_347_600_250);
});

test('a place takes its time from the server, and its machine’s clock stays as it is', async () => {
  const ahead = 5 * 3600_000;
  const server = await timeServer(0, () => Date.now() + ahead);
  const clock = await followTimeServer(`127.0.0.1:${server.port}`, 36);
  expect(Math.abs(clock.now() - Date.now() - ahead)).toBeLessThan(1000);
  expect(Math.abs(clock.machine() - Date.now())).toBeLessThan(1000);
  clock.close();
  server.close();
});

// RFC 5905, figure 4: era 1 begins on 7 February 2036 at 06:28:16.
test('the second era follows on the first', () => {
  const at = Date.parse('2036-02-07T06:28:16Z');
  expect(toNtp(at).seconds).toBe(0);
  const packet = Buffer.alloc(8);
  packet.writeUInt32BE(toNtp(at + 5000).seconds, 0);
  expect(fromNtp(packet, 0, Date.parse('2036-01-01T00:00:00Z'))).toBe(at + 5000);
});

test.each([
  ['two years back', -2 * 365 * 24],
  ['ten years ahead', 10 * 365 * 24],
])('a server that is %s is not believed, and that is said', async (_what, hours) => {
  const server = await timeServer(0, () => Date.now() + hours * 3600_000);
  const clock = await followTimeServer(`127.0.0.1:${server.port}`, 36);
  expect(Math.abs(clock.now() - Date.now())).toBeLessThan(1000);
  expect(clock.problem()).toMatch(hours > 0 ? /ahead of/ : /behind/);
  clock.close();
  server.close();
});

test('a step that is believed is told', async () => {
  let ahead = 0;
  const server = await timeServer(0, () => Date.now() + ahead);
  const clock = await followTimeServer(`127.0.0.1:${server.port}`, 36);
  const step = new Promise<number>((resolve) => clock.onStep(resolve));
  ahead = 3 * 3600_000;
  expect(Math.abs((await step) - ahead)).toBeLessThan(1000);
  expect(clock.problem()).toBeUndefined();
  clock.close();
  server.close();
});
