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
  /** It sends datagrams alone, and nothing over the connection (RFC 2326, 10.12). */
  readonly sendsDatagrams?: boolean;
  /** It has a microphone, which hears a steady tone. */
  readonly hasSound: boolean;
  readonly take: () => Promise<Buffer>;
  /** What its own detection sees just now, as an ONVIF metadata document. */
  readonly metadata: () => Promise<string>;
};

export type RtspServer = { readonly port: number; close(): void };

export async function rtspServer(port: number, sources: ReadonlyMap<string, StreamSource>): Promise<RtspServer> {
  const encoders = new Map<string, Encoder>();
  const clients = new Set<Socket>();
  const datagrams = createSocket('udp4');
  await new Promise<void>((ready) => datagrams.bind(0, '127.0.0.1', ready));
  const server = createServer((client) => {
    clients.add(client);
    client.on('error', () => client.destroy());
    let text = '';
    // Where each track is sent to on this connection.
    const channels = new Map<string, number>();
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
      const path = new URL(address.replace(/^rtsp/, 'http')).pathname.replace(/\/(track[123])?$/, '');
      const track = /\/(track[123])$/.exec(new URL(address.replace(/^rtsp/, 'http')).pathname)?.[1] ?? 'track1';
      const source = sources.get(path);
      if (method === 'OPTIONS') return void answer('200 OK', sequence, ['Public: OPTIONS, DESCRIBE, SETUP, PLAY, GET_PARAMETER, TEARDOWN']);
      if (!source) return void answer('404 Not Found', sequence);
      if (!isLetIn(header('Authorization'), method, source.keeper))
        return void answer('401 Unauthorized', sequence, [`WWW-Authenticate: ${plainChallenge}`]);
      if (!source.isWell()) return void answer('503 Service Unavailable', sequence);
      switch (method) {
        case 'DESCRIBE': {
          const sdp = (await encoderOf(path, source).sdp) + metadataSdp;
          return void answer('200 OK', sequence, ['Content-Type: application/sdp', `Content-Base: ${address}/`], sdp);
        }
        case 'SETUP': {
          if (source.sendsDatagrams) {
            const ports = /client_port=(\d+)-(\d+)/.exec(header('Transport'));
            if (!ports || /TCP/.test(header('Transport'))) return void answer('461 Unsupported Transport', sequence);
            channels.set(track, Number(ports[1]));
            return void answer('200 OK', sequence, [
              `Transport: RTP/AVP;unicast;client_port=${ports[1]}-${ports[2]};server_port=${datagrams.address().port}-${datagrams.address().port + 1}`,
              'Session: 1;timeout=60',
            ]);
          }
          const interleaved = /interleaved=(\d+)-(\d+)/.exec(header('Transport'));
          if (!interleaved) return void answer('461 Unsupported Transport', sequence);
          const channel = Number(interleaved[1]);
          channels.set(track, channel);
          return void answer('200 OK', sequence, [
            `Transport: RTP/AVP/TCP;unicast;interleaved=${channel}-${channel + 1}`,
            'Session: 1;timeout=60',
          ]);
        }
        case 'PLAY':
          answer('200 OK', sequence, ['Session: 1', 'Range: npt=0.000-']);
          leave = play(channels, encoderOf(path, source), source, (channel, packet) => {
            if (source.sendsDatagrams) return datagrams.send(packet, channel, client.remoteAddress?.replace(/^::ffff:/, ''), () => {});
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
      datagrams.close();
      server.close();
    },
  };
}

/** ONVIF Streaming Specification, metadata over RTP: documents as they are, the marker on the last packet of each. */
const metadataSdp = 'm=application 0 RTP/AVP 107\r\na=rtpmap:107 vnd.onvif.metadata/90000\r\na=control:track2\r\n';
const metadataEveryMs = 500;

function play(
  channels: ReadonlyMap<string, number>,
  encoder: Encoder,
  source: StreamSource,
  send: (channel: number, packet: Buffer) => void,
): () => void {
  const [pictures, metadata, sound] = [channels.get('track1'), channels.get('track2'), channels.get('track3')];
  const isAsked = pictures !== undefined || sound !== undefined;
  const leave = !isAsked
    ? () => {}
    : encoder.join((packet, isSound) => {
        const channel = isSound ? sound : pictures;
        if (channel !== undefined) send(channel, packet);
      });
  let sequence = 0;
  const say = async () => {
    const text = Buffer.from(await source.metadata());
    const header = Buffer.alloc(12);
    header.writeUInt8(0x80, 0);
    header.writeUInt8(0x80 | 107, 1);
    header.writeUInt16BE(sequence++ & 0xffff, 2);
    header.writeUInt32BE((Date.now() * 90) >>> 0, 4);
    header.writeUInt32BE(7, 8);
    send(metadata!, Buffer.concat([header, text]));
  };
  const timer = metadata === undefined ? undefined : setInterval(() => void say(), metadataEveryMs);
  return () => {
    clearInterval(timer);
    leave();
  };
}

type Taker = (packet: Buffer, isSound: boolean) => void;
type Encoder = { readonly sdp: Promise<string>; join(take: Taker): () => void; stop(): void };

/** 440 Hz, the a of ISO 16. */
const tone = ['-re', '-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=16000'];
const soundOut = (port: number) => [
  '-map',
  '1:a',
  '-c:a',
  'aac',
  '-ac',
  '1',
  '-b:a',
  '32k',
  '-flags:a',
  '+global_header',
  '-f',
  'rtp',
  `rtp://127.0.0.1:${port}?pkt_size=1400`,
];

const lonelyMs = 10_000;
const burstBytes = 4_000_000;

/** What ffmpeg says of its streams, each with the name by which it is set up: pictures first, then sound. */
function controlled(said: string): string {
  const [head = '', ...media] = said
    .replace(/^SDP:\s*/, '')
    .trim()
    .split(/(?=^m=)/m);
  const named = media.map((m) => `${m.trim()}\na=control:${m.startsWith('m=audio') ? 'track3' : 'track1'}\n`);
  return `${head}${named.join('')}`.replace(/\r?\n/g, '\r\n');
}

function startEncoder({ take, stream, isWell, hasSound }: StreamSource, gone: () => void): Encoder {
  const { everyMs } = streams[stream];
  const takers = new Set<Taker>();
  let ffmpeg: ChildProcess | undefined;
  let timer: NodeJS.Timeout | undefined;
  let lonely: NodeJS.Timeout | undefined;
  const udp: Datagrams = createSocket('udp4');
  const heard: Datagrams = createSocket('udp4');
  udp.on('message', (packet) => takers.forEach((t) => t(packet, false)));
  heard.on('message', (packet) => takers.forEach((t) => t(packet, true)));
  const stop = () => {
    clearInterval(timer);
    clearTimeout(lonely);
    ffmpeg?.kill('SIGKILL');
    udp.close();
    heard.close();
    gone();
  };
  const leaveSoon = () => (lonely = setTimeout(stop, lonelyMs));
  const sdp = new Promise<string>((resolve, reject) => {
    udp.bind(0, '127.0.0.1', () =>
      heard.bind(0, '127.0.0.1', () => {
        // A picture comes as one burst: what does not fit is lost, and leaves a smear until the next key picture.
        udp.setRecvBufferSize(burstBytes);
        const rate = String(1000 / everyMs);
        ffmpeg = spawn(
          'ffmpeg',
          [
            '-hide_banner',
            '-loglevel',
            'error',
            '-f',
            'image2pipe',
            '-c:v',
            'mjpeg',
            '-framerate',
            rate,
            '-i',
            'pipe:0',
            ...(hasSound ? tone : []),
            '-map',
            '0:v',
            '-c:v',
            'libx264',
            '-preset',
            'ultrafast',
            '-tune',
            'zerolatency',
            '-pix_fmt',
            'yuv420p',
            '-g',
            '5',
            '-flags:v',
            '+global_header',
            '-bsf:v',
            'dump_extra',
            '-f',
            'rtp',
            '-sdp_file',
            'pipe:1',
            `rtp://127.0.0.1:${udp.address().port}?pkt_size=1400`,
            ...(hasSound ? soundOut(heard.address().port) : []),
          ],
          { stdio: ['pipe', 'pipe', 'ignore'] },
        );
        let said = '';
        ffmpeg.stdout!.on('data', (d: Buffer) => {
          said += d.toString();
          if ((said.match(/a=fmtp:/g) ?? []).length === (hasSound ? 2 : 1)) resolve(controlled(said));
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
      }),
    );
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
