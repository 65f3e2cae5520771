// The whole place, running: what it costs while nothing moves, and how soon an alert goes out.

import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { launch, post, signIns } from '@nibber/demo/launch';
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

export async function benchPlace(): Promise<Figures> {
  const dataFolder = mkdtempSync(path.join(tmpdir(), 'nibber-bench-'));
  const place = await launch({ port: 18_480, dataFolder, life: false, log: () => {} });
  try {
    const session = await fetch(`${place.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: signIns[0]!.name, password: signIns[0]!.password }),
    });
    const headers = { cookie: session.headers.getSetCookie()[0]!.split(';')[0]!, 'content-type': 'application/json' };
    const ask = async <T>(route: string, init: RequestInit = {}) =>
      (await (await fetch(place.url + route, { ...init, headers })).json()) as T;
    const pids = [place.serverPid()!, place.standinsPid()!];
    await pause(settleMs);
    const before = pids.map(usedSeconds);
    await pause(idleSeconds * 1000);
    const [server, standins] = pids.map((pid, i) => (usedSeconds(pid) - before[i]!) / idleSeconds) as [number, number];
    await ask('/api/areas/landing/mode', { method: 'PUT', body: JSON.stringify({ mode: 'closed' }) });
    await post(`${place.standins.stage}/directions`, { kind: 'send', figure: 'ada', walk: 'lane-to-yard' });
    const told = await alerted(ask);
    const { health } = await ask<{ health: { looked: number; lookMs: number } }>('/api/cameras/yard');
    const toldMs = told.sentAt - told.at;
    return {
      'cores used by the server while nothing moves': rounded(server, 2),
      'cores used by the stand-ins while nothing moves': rounded(standins, 2),
      'alert sent after the picture, s': rounded(toldMs / 1000, 2),
      'of which outside the model, s': rounded((toldMs - health.lookMs / health.looked) / 1000, 2),
      'server MB': Math.round(megabytes(pids[0]!)),
      'server and stand-ins MB': Math.round(pids.reduce((sum, pid) => sum + megabytes(pid), 0)),
    };
  } finally {
    await place.stop();
    rmSync(dataFolder, { recursive: true, force: true });
  }
}

type Ask = <T>(route: string) => Promise<T>;

async function alerted(ask: Ask): Promise<{ at: number; sentAt: number }> {
  for (let tries = 0; tries < 300; tries++) {
    const [event] = (await ask<{ items: { id: string; at: number }[] }>('/api/events?show=told')).items;
    const alert = event && (await ask<{ alerts: { sentAt: number | null }[] }>(`/api/events/${event.id}`)).alerts[0];
    if (event && alert?.sentAt) return { at: event.at, sentAt: alert.sentAt };
    await pause(100);
  }
  throw new Error('no alert came');
}
