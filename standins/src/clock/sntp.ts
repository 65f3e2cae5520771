// A time server (SNTP, RFC 4330) with the time of the simulated world.

import { createSocket } from 'node:dgram';
import { toNtp } from '@nibber/server/base/clock';

export async function timeServer(port: number, worldNow: () => number): Promise<{ port: number; close(): void }> {
  const socket = createSocket('udp4');
  socket.on('message', (request, from) => {
    if (request.length < 48) return;
    const answer = Buffer.alloc(48);
    answer[0] = 0x24; // version 4, server
    answer[1] = 2; // stratum
    request.copy(answer, 24, 40, 48); // originate: the asker's transmit time
    const { seconds, fraction } = toNtp(worldNow());
    for (const at of [32, 40]) {
      answer.writeUInt32BE(seconds, at);
      answer.writeUInt32BE(fraction, at + 4);
    }
    socket.send(answer, from.port, from.address);
  });
  await new Promise<void>((ready) => socket.bind(port, '127.0.0.1', ready));
  return { port: socket.address().port, close: () => socket.close() };
}
