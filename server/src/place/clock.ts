// Two clocks. The place's clock says when things happen there; it can be taken from a time server (SNTP, RFC 4330).
// The machine's clock times sessions, links and retries, and never jumps with the place's.

import { createSocket } from 'node:dgram';
import type { Instant } from '@nibber/core/time';
import { log } from '../log';

export type Clock = { now(): Instant; machine(): number; close(): void };

export const machineClock = (): Clock => ({ now: () => Date.now(), machine: () => Date.now(), close: () => {} });

/** Seconds from 1900, where NTP begins, to 1970. */
const ntpEpochSeconds = 2_208_988_800;
const askEveryMs = 1000;
const mostDelayMs = 100;
/** Less than this is the network's jitter, not the clock's. */
const smallestStepMs = 150;

export const toNtp = (at: Instant): { seconds: number; fraction: number } => ({
  seconds: Math.floor(at / 1000) + ntpEpochSeconds,
  fraction: Math.floor(((at % 1000) / 1000) * 2 ** 32),
});

export const fromNtp = (packet: Buffer, at: number): Instant =>
  (packet.readUInt32BE(at) - ntpEpochSeconds) * 1000 + Math.round((packet.readUInt32BE(at + 4) / 2 ** 32) * 1000);

/** The clock of a place that a time server tells; resolves once the server has answered, or has not for five seconds. */
export async function followTimeServer(address: string): Promise<Clock> {
  const [host, port] = address.split(':') as [string, string];
  const socket = createSocket('udp4');
  let offset = 0;
  let sentAt = 0;
  let answered = false;
  const ask = () => {
    const packet = Buffer.alloc(48);
    packet[0] = 0x23; // version 4, client
    sentAt = Date.now();
    const { seconds, fraction } = toNtp(sentAt);
    packet.writeUInt32BE(seconds, 40);
    packet.writeUInt32BE(fraction, 44);
    socket.send(packet, Number(port), host, (error) => error && log.warn({ error: error.message }, 'time server not reached'));
  };
  const first = new Promise<void>((resolve) => {
    socket.on('message', (packet) => {
      if (packet.length < 48 || (packet[0]! & 7) !== 4) return;
      const receivedAt = Date.now();
      // The answer to an earlier question, or one that was long under way, says nothing exact.
      const isPrompt = Math.abs(fromNtp(packet, 24) - sentAt) <= 1 && receivedAt - sentAt <= mostDelayMs;
      if (!isPrompt && answered) return;
      // RFC 4330, section 5: offset = ((T2 − T1) + (T3 − T4)) / 2
      const measured = (fromNtp(packet, 32) - sentAt + (fromNtp(packet, 40) - receivedAt)) / 2;
      if (!answered || Math.abs(measured - offset) > smallestStepMs) offset = measured;
      answered = true;
      resolve();
    });
    setTimeout(resolve, 5000).unref();
  });
  socket.on('error', (error) => log.warn({ error: error.message }, 'time server not reached'));
  const timer = setInterval(ask, askEveryMs);
  timer.unref();
  ask();
  await first;
  return {
    now: () => Math.round(Date.now() + offset),
    machine: () => Date.now(),
    close: () => {
      clearInterval(timer);
      socket.close();
    },
  };
}
