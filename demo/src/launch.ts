// Starts the invented place: stand-ins and server as processes of their own, each as it runs for real.

import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { editSite, readSite } from '@nibber/core/check';
import { machineClock } from '@nibber/server/base/clock';
import { openRecord } from '@nibber/server/db/index';
import { openAccess } from '@nibber/server/db/access';
import { openSealed } from '@nibber/server/db/sealed';
import { ofMail, openChannelSecrets } from '@nibber/server/db/secrets';
import type { StandinAddresses } from '@nibber/standins/addresses';
import { mailSignIn } from '@nibber/standins/mailbox/server';

export type SignIn = {
  readonly name: string;
  readonly person: string;
  readonly role: 'owner' | 'member' | 'installer';
  readonly password: string;
};

export const signIns: readonly SignIn[] = [
  { name: 'Rowan', person: 'rowan', role: 'owner', password: 'withy-landing-rowan' },
  { name: 'Tess', person: 'tess', role: 'member', password: 'withy-landing-tess' },
  { name: 'Ives', person: 'ives', role: 'installer', password: 'withy-landing-ives' },
];

export type LaunchOptions = {
  readonly port: number;
  readonly dataFolder: string;
  /** Whether passers-by come and go by themselves. */
  readonly life: boolean;
  /** The day it is there, and how fast everyone walks; today, as usual, if not said. */
  readonly date?: string;
  readonly pace?: number;
  /** All five cameras and the recorded week; otherwise two cameras, one rule, and nothing that happened yet. */
  readonly whole?: { readonly progress: (done: number) => void };
  /** An empty place beside the stage: no one has an account yet. */
  readonly bare?: boolean;
  /** Where the program's own words go. */
  readonly log: (line: string) => void;
};

export type Launched = {
  readonly url: string;
  readonly standins: StandinAddresses;
  /** Ends the server alone, at once and without a word, as a power cut does. */
  killServer(): Promise<void>;
  startServer(): Promise<void>;
  /** With which the first visit makes the owner's account; undefined where there is one. */
  setUpCode(): string | undefined;
  serverPid(): number | undefined;
  standinsPid(): number | undefined;
  stop(): Promise<void>;
};

const root = path.join(__dirname, '..', '..');

export async function launch(options: LaunchOptions): Promise<Launched> {
  const { port, dataFolder, log } = options;
  const url = `http://127.0.0.1:${port}`;
  mkdirSync(dataFolder, { recursive: true });
  const standinProcess = run(
    'standins/src/main.ts',
    {
      NIBBER_STANDINS_PORT: String(port + 1),
      NIBBER_STAGE_LIFE: options.life ? 'on' : 'off',
      ...(options.date ? { NIBBER_STAGE_DATE: options.date } : {}),
      ...(options.pace ? { NIBBER_STAGE_PACE: String(options.pace) } : {}),
    },
    log,
  );
  const standins = JSON.parse(await firstLine(standinProcess, (line) => line.startsWith('{'))) as StandinAddresses;
  const siteFile = options.bare ? undefined : await seed(dataFolder, standins, options);
  let server: ChildProcess | undefined;
  let setUpCode: string | undefined;

  const startServer = async () => {
    const env = {
      PORT: String(port),
      NIBBER_DATA: dataFolder,
      NIBBER_TIME_SERVER: standins.time,
      // A stage on another day is believed, however far that is.
      ...(options.date ? { NIBBER_TIME_HOURS: '1000000' } : {}),
      // The stand-in push service is on this machine, where no other is called.
      NIBBER_PUSH_SERVICES: standins.push,
      NIBBER_DESCRIBER_URL: standins.describer,
      NIBBER_OWN_SERVICES: `${standins.receivers},${new URL(standins.describer).origin}`,
      ...(siteFile && !server ? { NIBBER_SITE: siteFile } : {}),
    };
    server = run('server/src/commands/start.ts', env, log);
    createInterface({ input: server.stdout! }).on('line', (line) => (setUpCode ??= /^Set-up code .*: (\S+)$/.exec(line)?.[1]));
    await firstLine(server, (line) => line.startsWith('Nibber listens'));
  };
  const stop = async () => {
    await ended(server, 'SIGTERM');
    await ended(standinProcess, 'SIGTERM');
  };
  try {
    await startServer();
    const owner = signIns[0]!;
    if (!options.bare) await post(`${standins.pocket}/sign-up`, { server: url, name: owner.name, password: owner.password });
  } catch (thrown) {
    // What was started does not stay behind.
    await stop();
    throw thrown;
  }
  return {
    url,
    standins,
    startServer,
    setUpCode: () => setUpCode,
    serverPid: () => server?.pid,
    standinsPid: () => standinProcess.pid,
    killServer: () => ended(server, 'SIGKILL'),
    stop,
  };
}

/**
 * First time: accounts, the site file, what was recorded. It is made beside its place, so that one that was broken off is made again.
 * @returns the file to apply, or undefined where the place was set up before
 */
async function seed(
  dataFolder: string,
  { stage, mail, describer }: StandinAddresses,
  { whole, log }: Pick<LaunchOptions, 'whole' | 'log'>,
): Promise<string | undefined> {
  if (existsSync(path.join(dataFolder, 'nibber.sqlite'))) return undefined;
  const making = `${dataFolder}.making`;
  rmSync(making, { recursive: true, force: true });
  mkdirSync(making, { recursive: true });
  const record = await openRecord(making);
  const access = openAccess(record, machineClock());
  for (const account of signIns) await access.addAccount(account);
  const secrets = openChannelSecrets(openSealed(record, path.join(making, 'secrets.key')));
  await record.write((transaction) =>
    secrets.give(ofMail({ ...mailAt(mail), from: 'nibber@withy.example' }), mailSignIn.password, transaction),
  );
  await record.close();
  writeFileSync(path.join(making, siteName), siteText(stage, mail, describer, whole !== undefined));
  if (whole) await makeWeek(making, stage, whole.progress, log);
  mkdirSync(dataFolder, { recursive: true });
  // The database last: with it the place counts as set up.
  const byDatabase = (a: string, b: string) => Number(a.startsWith('nibber.')) - Number(b.startsWith('nibber.')) || (a < b ? 1 : -1);
  for (const name of readdirSync(making).sort(byDatabase)) renameSync(path.join(making, name), path.join(dataFolder, name));
  rmdirSync(making);
  return path.join(dataFolder, siteName);
}

function makeWeek(folder: string, stage: string, progress: (done: number) => void, log: LaunchOptions['log']): Promise<void> {
  const env = { NIBBER_DATA: folder, NIBBER_STAGE: stage, NIBBER_SITE: path.join(folder, siteName) };
  const child = run('demo/src/make-week.ts', env, (line) => {
    const done = /^week (\S+)$/.exec(line)?.[1];
    if (done === undefined) log(line);
    else progress(Number(done));
  });
  return new Promise((resolve, reject) =>
    child.on('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`the recorded week was not made (${code}); NIBBER_LOG=info says why`)),
    ),
  );
}

const siteName = 'withy-landing.yaml';
const small = { cameras: ['lane-gate', 'yard'], rules: ['comes-in'] } as const;

/** As the site file has it. */
const mailAt = (address: string) => ({ host: '127.0.0.1', port: Number(address.split(':')[1]), security: 'none' }) as const;

function siteText(stage: string, mail: string, describer: string, isWhole: boolean): string {
  const text = readFileSync(path.join(__dirname, '..', siteName), 'utf8')
    .replaceAll('STAGE', stage)
    .replaceAll('http://DESCRIBER', new URL(describer).origin)
    .replace('port: 1025', `port: ${mailAt(mail).port}`);
  if (isWhole) return text;
  const read = readSite(text);
  if (!read.ok) throw new Error(`The site of the demo cannot be used: ${read.problems[0]!.wrong}`);
  const { cameras = [], rules = [], readings = [], reminders = [] } = read.site;
  const kept = small.cameras as readonly string[];
  const gone = {
    reminders: reminders.map((r) => r.id),
    readings: readings.map((r) => r.id),
    rules: rules.map((r) => r.id).filter((id) => !(small.rules as readonly string[]).includes(id)),
    cameras: cameras.map((c) => c.id).filter((id) => !kept.includes(id)),
  };
  // What watches a camera goes before it.
  return Object.entries(gone).reduce(
    (now, [list, ids]) =>
      editSite(
        now,
        ids.map((id) => [[list, id], undefined]),
      ),
    editSite(text, [[['known'], undefined]]),
  );
}

function run(script: string, env: Record<string, string>, log: (line: string) => void): ChildProcess {
  const child = spawn(process.execPath, ['--import', 'tsx', path.join(root, script)], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  for (const stream of [child.stdout!, child.stderr!]) createInterface({ input: stream }).on('line', log);
  return child;
}

function firstLine(child: ChildProcess, isIt: (line: string) => boolean): Promise<string> {
  return new Promise((resolve, reject) => {
    createInterface({ input: child.stdout! }).on('line', (line) => isIt(line) && resolve(line));
    child.on('exit', (code) => reject(new Error(`${child.spawnargs.at(-1)} ended with ${code}`)));
  });
}

function ended(child: ChildProcess | undefined, signal: NodeJS.Signals): Promise<void> {
  if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill(signal);
  });
}

/** The API as the signed-in person sees it. Edits apply to the site as it is then. */
export type Ask = (<T>(route: string, method?: string, body?: unknown) => Promise<T>) & { readonly cookie: string };

export async function signedIn(url: string, { name, password }: SignIn): Promise<Ask> {
  const headers = { origin: url, 'content-type': 'application/json' };
  const session = await fetch(`${url}/api/session`, { method: 'POST', headers, body: JSON.stringify({ name, password }) });
  if (!session.ok) throw new Error(`${name} cannot sign in: ${await session.text()}`);
  const cookie = session.headers.getSetCookie()[0]!.split(';')[0]!;
  const ask = async <T>(route: string, method = 'GET', body?: unknown) => {
    const version = method === 'GET' ? undefined : (await ask<{ version: number }>('/api/site')).version;
    const answer = await fetch(url + route, {
      method,
      headers: { ...headers, cookie, ...(version === undefined ? {} : { 'if-match': `"${version}"` }) },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    return (await answer.json()) as T;
  };
  return Object.assign(ask, { cookie });
}

export async function post(url: string, body: unknown): Promise<void> {
  const answer = await fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  if (!answer.ok) throw new Error(`${url} answered ${answer.status}: ${await answer.text()}`);
}
