// A small RTSP server (RFC 2326): describes, sets up and plays over the same connection (interleaved). ffmpeg makes the H.264; its RTP
// packets are handed on as they are.

import { spawn, type ChildProcess } from 'node:child_process';
import { createSocket, type Socket as Datagrams } from 'node:dgram';
import { createServer, type Socket } from 'node:net';
import { streams, type StreamName } from '../cameras/camera';
import { isLetIn, plainChallenge, type Keeper } from './guard';

export type StreamSource = {
  readonly keeper: Keeper;
  readonly stream: StreamName;
  readonly isWell: () => boolean;
  readonly take: () => Promise<Buffer>;
};

export type RtspServer = { readonly port: number; close(): void };

export async function rtspServer(port: number, sources: ReadonlyMap<string, StreamSource>): Promise<RtspServer> {
  const encoders = new Map<string, Encoder>();
  const clients = new Set<Socket>();
  const server = createServer((client) => {
    clients.add(client);
    client.on('error', () => client.destroy());
    let text = '';
    let channel = 0;
    let leave = () => {};
    client.on('close', () => {
      clients.delete(client);
      leave();
    });
    const answer = (status: string, sequence: string, headers: readonly string[] = [], body = '') =>
      client.write(
        [`RTSP/1.0 ${status}`, `CSeq: ${sequence}`, ...headers, ...(body ? [`Content-Length: ${body.length}`] : []), '', body].join('\r\n'),
      );
    const take = async (request: string) => {
      const [, method, address] = /^(\w+) (\S+) RTSP\/1\.0/.exec(request) ?? [];
      if (!method || !address) return void client.destroy();
      const header = (name: string) => new RegExp(`^${name}: *(.*)$`, 'im').exec(request)?.[1]?.trim() ?? '';
      const sequence = header('CSeq');
      const path = new URL(address.replace(/^rtsp/, 'http')).pathname.replace(/\/(track1)?$/, '');
      const source = sources.get(path);
      if (method === 'OPTIONS') return void answer('200 OK', sequence, ['Public: OPTIONS, DESCRIBE, SETUP, PLAY, GET_PARAMETER, TEARDOWN']);
      if (!source) return void answer('404 Not Found', sequence);
      if (!isLetIn(header('Authorization'), method, source.keeper))
        return void answer('401 Unauthorized', sequence, [`WWW-Authenticate: ${plainChallenge}`]);
      if (!source.isWell()) return void answer('503 Service Unavailable', sequence);
      switch (method) {
        case 'DESCRIBE': {
          const sdp = await encoderOf(path, source).sdp;
          return void answer('200 OK', sequence, ['Content-Type: application/sdp', `Content-Base: ${address}/`], sdp);
        }
        case 'SETUP': {
          const interleaved = /interleaved=(\d+)-(\d+)/.exec(header('Transport'));
          if (!interleaved) return void answer('461 Unsupported Transport', sequence);
          channel = Number(interleaved[1]);
          return void answer('200 OK', sequence, [
            `Transport: RTP/AVP/TCP;unicast;interleaved=${channel}-${channel + 1}`,
            'Session: 1;timeout=60',
          ]);
        }
        case 'PLAY':
          answer('200 OK', sequence, ['Session: 1', 'Range: npt=0.000-']);
          leave = encoderOf(path, source).join((packet) => {
            // Whoever cannot keep up misses packets.
            if (client.destroyed || client.writableLength > 2_000_000) return;
            const frame = Buffer.alloc(4);
            frame.writeUInt8(0x24, 0);
            frame.writeUInt8(channel, 1);
            frame.writeUInt16BE(packet.length, 2);
            client.write(Buffer.concat([frame, packet]));
          });
          return;
        case 'TEARDOWN':
          answer('200 OK', sequence);
          return void client.end();
        default:
          return void answer('200 OK', sequence, ['Session: 1']);
      }
    };
    client.on('data', (data) => {
      // Reports of the receiver come in between; a stand-in has no use for them.
      text += data[0] === 0x24 ? '' : data.toString('latin1');
      for (let end = text.indexOf('\r\n\r\n'); end >= 0; end = text.indexOf('\r\n\r\n')) {
        const request = text.slice(0, end);
        text = text.slice(end + 4);
        void take(request).catch(() => client.destroy());
      }
      if (text.length > 16_000) client.destroy();
    });
  });
  const encoderOf = (path: string, source: StreamSource) => {
    let encoder = encoders.get(path);
    if (!encoder) encoders.set(path, (encoder = startEncoder(source, () => encoders.delete(path))));
    return encoder;
  };
  await new Promise<void>((ready, failed) => server.once('error', failed).listen(port, '127.0.0.1', ready));
  return {
    port: (server.address() as { port: number }).port,
    close() {
      encoders.forEach((e) => e.stop());
      clients.forEach((c) => c.destroy());
      server.close();
    },
  };
}

type Encoder = { readonly sdp: Promise<string>; join(take: (packet: Buffer) => void): () => void; stop(): void };

const lonelyMs = 10_000;

function startEncoder({ take, stream, isWell }: StreamSource, gone: () => void): Encoder {
  const { everyMs } = streams[stream];
  const takers = new Set<(packet: Buffer) => void>();
  let ffmpeg: ChildProcess | undefined;
  let timer: NodeJS.Timeout | undefined;
  let lonely: NodeJS.Timeout | undefined;
  const udp: Datagrams = createSocket('udp4');
  udp.on('message', (packet) => takers.forEach((t) => t(packet)));
  const stop = () => {
    clearInterval(timer);
    clearTimeout(lonely);
    ffmpeg?.kill('SIGKILL');
    udp.close();
    gone();
  };
  const leaveSoon = () => (lonely = setTimeout(stop, lonelyMs));
  const sdp = new Promise<string>((resolve, reject) => {
    udp.bind(0, '127.0.0.1', () => {
      const rate = String(1000 / everyMs);
      ffmpeg = spawn(
        'ffmpeg',
        ['-hide_banner', '-loglevel', 'error', '-f', 'image2pipe', '-c:v', 'mjpeg', '-framerate', rate, '-i', 'pipe:0', '-an', '-c:v', 'libx264', '-preset', 'ultrafast', '-tune', 'zerolatency', '-pix_fmt', 'yuv420p', '-g', '5', '-flags:v', '+global_header', '-bsf:v', 'dump_extra', '-f', 'rtp', '-sdp_file', 'pipe:1', `rtp://127.0.0.1:${udp.address().port}?pkt_size=1400`], // prettier-ignore
        { stdio: ['pipe', 'pipe', 'ignore'] },
      );
      let said = '';
      ffmpeg.stdout!.on('data', (d: Buffer) => {
        said += d.toString();
        if (/a=fmtp:/.test(said)) resolve(`${said.replace(/^SDP:\s*/, '').trim()}\r\na=control:track1\r\n`.replace(/\r?\n/g, '\r\n'));
      });
      ffmpeg.on('error', reject);
      ffmpeg.stdin!.on('error', () => {});
      ffmpeg.on('exit', () => {
        clearInterval(timer);
        reject(new Error('the encoder ended'));
      });
      const feed = async () => {
        if (isWell() && ffmpeg!.stdin!.writableLength < 2_000_000) ffmpeg!.stdin!.write(await take());
      };
      void feed();
      timer = setInterval(() => void feed(), everyMs);
    });
  });
  sdp.catch(() => {});
  leaveSoon();
  return {
    sdp,
    join(taker) {
      clearTimeout(lonely);
      takers.add(taker);
      return () => {
        takers.delete(taker);
        if (takers.size === 0) leaveSoon();
      };
    },
    stop,
  };
}
