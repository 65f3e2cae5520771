// The whole place, running: what it costs while nothing moves, and how soon an alert goes out.

import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { launch, post, signedIn, signIns, type Ask } from '@nibber/demo/launch';
import { rounded, type Figures } from './measure';

const ticksASecond = 100;
const idleSeconds = 20;
const settleMs = 8000;
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));

const usedSeconds = (pid: number) => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
  return (Number(fields[11]) + Number(fields[12])) / ticksASecond;
};
const megabytes = (pid: number) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

export async function benchSite(): Promise<Figures> {
  const dataFolder = mkdtempSync(path.join(tmpdir(), 'nibber-bench-'));
  const place = await launch({ port: 18_480, dataFolder, life: false, log: () => {} });
  try {
    const ask = await signedIn(place.url, signIns[0]!);
    const pids = [place.serverPid()!, place.standinsPid()!];
    await pause(settleMs);
    const before = pids.map(usedSeconds);
    await pause(idleSeconds * 1000);
    const [server, standins] = pids.map((pid, i) => (usedSeconds(pid) - before[i]!) / idleSeconds) as [number, number];
    await ask('/api/areas/landing/mode', 'PUT', { mode: 'closed' });
    await post(`${place.standins.stage}/directions`, { kind: 'send', figure: 'ada', walk: 'lane-to-yard' });
    const notified = await alerted(ask);
    const { health } = await ask<{ health: { framesAnalysed: number; analysisMs: number } }>('/api/cameras/yard');
    const notifiedMs = notified.sentAt - notified.at;
    return {
      'cores used by the server while nothing moves': rounded(server, 2),
      'cores used by the stand-ins while nothing moves': rounded(standins, 2),
      'alert sent after the picture, s': rounded(notifiedMs / 1000, 2),
      'of which outside the model, s': rounded((notifiedMs - health.analysisMs / health.framesAnalysed) / 1000, 2),
      'server MB': Math.round(megabytes(pids[0]!)),
      'server and stand-ins MB': Math.round(pids.reduce((sum, pid) => sum + megabytes(pid), 0)),
    };
  } finally {
    await place.stop();
    rmSync(dataFolder, { recursive: true, force: true });
  }
}

async function alerted(ask: Ask): Promise<{ at: number; sentAt: number }> {
  for (let tries = 0; tries < 300; tries++) {
    const [event] = (await ask<{ items: { id: string; at: number }[] }>('/api/events?show=notified')).items;
    const alert = event && (await ask<{ alerts: { sentAt: number | null }[] }>(`/api/events/${event.id}`)).alerts[0];
    if (event && alert?.sentAt) return { at: event.at, sentAt: alert.sentAt };
    await pause(100);
  }
  throw new Error('no alert came');
}
