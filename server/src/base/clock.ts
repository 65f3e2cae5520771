// Two clocks. The place's clock says when things happen there; it can be taken from a time server (SNTP, RFC 4330).
// The machine's clock times sessions, links, retries and who is let in, and never jumps with the site's.

import { createSocket } from 'node:dgram';
import type { Instant } from '@nibber/core/time';
import { log } from './log';

export type Clock = {
  now(): Instant;
  machine(): number;
  /** What is wrong with the time, in words; undefined while all is well. */
  problem(): string | undefined;
  /** Calls back when the time has been moved. @param ms by how much, forward or back */
  onStep(listener: (ms: number) => void): void;
  close(): void;
};

export const machineClock = (): Clock => ({
  now: () => Date.now(),
  machine: () => Date.now(),
  problem: () => undefined,
  onStep: () => {},
  close: () => {},
});

/** Seconds from 1900, where NTP begins, to 1970. */
const ntpEpochSeconds = 2_208_988_800;
const askEveryMs = 1000;
const maxDelayMs = 100;
/** Less than this is the network's jitter, not the clock's. */
const smallestStepMs = 150;

/** Seconds of an NTP era, of which the first ends in February 2036 (RFC 5905, 6). */
const eraSeconds = 2 ** 32;

/** The seconds are those of the era that the instant lies in, as a packet has them. */
export const toNtp = (at: Instant): { seconds: number; fraction: number } => ({
  seconds: (((Math.floor(at / 1000) + ntpEpochSeconds) % eraSeconds) + eraSeconds) % eraSeconds,
  fraction: Math.floor(((((at % 1000) + 1000) % 1000) / 1000) * 2 ** 32),
});

/** @param near an instant known otherwise: a packet does not say its era, and the one that brings it nearest is meant */
export const fromNtp = (packet: Buffer, at: number, near: Instant = Date.now()): Instant => {
  const inEra = packet.readUInt32BE(at) - ntpEpochSeconds + packet.readUInt32BE(at + 4) / 2 ** 32;
  const era = Math.round((near / 1000 - inEra) / eraSeconds);
  return Math.round((inEra + era * eraSeconds) * 1000);
};

/** A step that is worth telling of. */
const notifiedStepMs = 60_000;
const hourMs = 3_600_000;

/**
 * The clock of a site that follows a time server; resolves once the server has answered, or has not for five seconds.
 * @param mostHours how far from the machine's clock it is believed; beyond that the machine's clock stands, and `problem` says so
 */
export async function followTimeServer(address: string, maxHours: number): Promise<Clock> {
  const [host, port] = address.split(':') as [string, string];
  const socket = createSocket('udp4');
  let offset = 0;
  let sentAt = 0;
  let answered = false;
  let refused: number | undefined;
  const listeners: ((ms: number) => void)[] = [];
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
      const isPrompt = Math.abs(fromNtp(packet, 24) - sentAt) <= 1 && receivedAt - sentAt <= maxDelayMs;
      if (!isPrompt && answered) return;
      // RFC 4330, section 5: offset = ((T2 − T1) + (T3 − T4)) / 2
      const measured = (fromNtp(packet, 32) - sentAt + (fromNtp(packet, 40) - receivedAt)) / 2;
      refused = Math.abs(measured) > maxHours * hourMs ? measured : undefined;
      const wanted = refused === undefined ? measured : 0;
      if (!answered || Math.abs(wanted - offset) > smallestStepMs) {
        const step = wanted - offset;
        offset = wanted;
        if (Math.abs(step) > notifiedStepMs) listeners.forEach((l) => l(step));
      }
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
    problem: () =>
      refused === undefined
        ? undefined
        : `The time server is ${Math.round(Math.abs(refused) / hourMs)} h ${refused > 0 ? 'ahead of' : 'behind'} this machine’s clock and is ignored. Correct one of them, or set NIBBER_TIME_HOURS.`,
    onStep: (listener) => void listeners.push(listener),
    close: () => {
      clearInterval(timer);
      socket.close();
    },
  };
}
