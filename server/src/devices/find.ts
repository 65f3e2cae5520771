// Finding cameras on the network: one question to everyone, answers for some seconds.

import { randomUUID } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { networkInterfaces } from 'node:os';
import { discoveryGroup, readProbeMatches, writeProbe, type FoundDevice } from '@nibber/core/formats';

export type Search = { readonly found: () => readonly FoundDevice[]; readonly problem: () => string | undefined; stop(): void };

/** Asked again in between, since a datagram may be lost. */
const askEveryMs = 1200;
const maxFound = 200;

/**
 * Asks on every network of this machine, itself included.
 * @param milliseconds how long answers are taken
 * @param done called once, at the end or when stopped
 */
export function findDevices(milliseconds: number, done: () => void): Search {
  const id = randomUUID();
  const question = Buffer.from(writeProbe(id));
  const found = new Map<string, FoundDevice>();
  const failed: string[] = [];
  let isOpen = true;
  const own = Object.values(networkInterfaces()).flatMap((list) => (list ?? []).filter((i) => i.family === 'IPv4').map((i) => i.address));
  const sockets = own.map((address) => {
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    const askAll = () => isOpen && socket.send(question, discoveryGroup.port, discoveryGroup.address, () => {});
    let timer: NodeJS.Timeout | undefined;
    socket.on('error', (error) => failed.push(`${address}: ${error.message}`));
    socket.on('message', (message) => {
      try {
        for (const device of readProbeMatches(message.toString('utf8'), id)) if (found.size < maxFound) found.set(device.id, device);
      } catch {
        // Something else answered on the group's port.
      }
    });
    socket.bind(0, address, () => {
      try {
        socket.setMulticastInterface(address);
        askAll();
        timer = setInterval(askAll, askEveryMs);
      } catch (thrown) {
        failed.push(`${address}: ${(thrown as Error).message}`);
      }
    });
    return {
      close() {
        clearInterval(timer);
        socket.close();
      },
    };
  });
  const stop = () => {
    if (!isOpen) return;
    isOpen = false;
    clearTimeout(end);
    sockets.forEach((s) => s.close());
    done();
  };
  const end = setTimeout(stop, milliseconds);
  return {
    found: () => [...found.values()],
    problem: () => (failed.length === own.length ? `The networks of this machine could not be searched: ${failed.join('; ')}.` : undefined),
    stop,
  };
}
