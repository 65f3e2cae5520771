import { fromNtp, followTimeServer, toNtp } from '@nibber/server/place/clock';
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
  const clock = await followTimeServer(`127.0.0.1:${server.port}`);
  expect(Math.abs(clock.now() - Date.now() - ahead)).toBeLessThan(1000);
  expect(Math.abs(clock.machine() - Date.now())).toBeLessThan(1000);
  clock.close();
  server.close();
});
