// The site as it is set up now, its earlier versions, and the modes of its areas.

import { editSite, readSite } from '@nibber/core/check';
import { compileSite, type CompiledSite, type SiteFile } from '@nibber/core/site';
import { faultLine, Trouble, type Fault } from '@nibber/core/trouble';
import type { Clock } from '../clock';
import type { Record } from './index';
import { noteInLogbook } from './logbook';

export type AreaMode = { readonly area: string; readonly mode: string; readonly since: number; readonly by: string };
export type SiteChange = { readonly kind: 'site' } | { readonly kind: 'mode'; readonly change: AreaMode };

/** Keys and list indexes from the top of the site file. */
export type SitePath = readonly (string | number)[];

export type SiteBook = {
  readonly file: SiteFile;
  readonly text: string;
  readonly compiled: CompiledSite;
  readonly modes: readonly AreaMode[];
  /** Replaces the whole site. @throws Trouble 'bad-site' with every fault; nothing is changed then */
  replace(text: string, by: string, what: string): Promise<void>;
  /** Replaces one part of it, comments elsewhere kept. @throws as `replace` */
  edit(path: SitePath, value: unknown, by: string, what: string): Promise<void>;
  /** Several parts at once, as one version. A value of undefined takes the part away. @throws as `replace` */
  editAll(edits: readonly (readonly [path: SitePath, value: unknown])[], by: string, what: string): Promise<void>;
  setMode(area: string, mode: string, by: string): Promise<void>;
  onChange(listener: (change: SiteChange) => void): void;
};

const emptySite = `nibber: 1
site: { name: New site, timezone: Etc/UTC }
areas:
  - { id: main, name: Main }
modes:
  - { id: open, name: Open, armed: false }
  - { id: closed, name: Closed, armed: true }
cameras: []
rules: []
`;

export async function openSiteBook(record: Record, clock: Clock): Promise<SiteBook> {
  const { siteVersions, areaModes } = record.tables;
  const listeners: ((change: SiteChange) => void)[] = [];
  const stored = await siteVersions.findOne({ order: [['id', 'DESC']] });
  let text = stored?.text ?? emptySite;
  let file = checked(text);
  let compiled = compileSite(file);
  let modes: AreaMode[] = (await areaModes.findAll()).map((row) => ({ area: row.area, mode: row.mode, since: row.since, by: row.by }));

  const replace = async (next: string, by: string, what: string) => {
    const nextFile = checked(next);
    await record.write(async (transaction) => {
      await siteVersions.create({ at: clock.now(), by, what, text: next }, { transaction });
      await noteInLogbook(record, transaction, clock.now(), by, what);
    });
    text = next;
    file = nextFile;
    compiled = compileSite(file);
    listeners.forEach((l) => l({ kind: 'site' }));
  };
  return {
    get file() {
      return file;
    },
    get text() {
      return text;
    },
    get compiled() {
      return compiled;
    },
    get modes() {
      return file.areas.map(
        (a) =>
          modes.find((m) => m.area === a.id && compiled.modeNames.has(m.mode)) ?? {
            area: a.id,
            mode: compiled.firstMode,
            since: 0,
            by: '',
          },
      );
    },
    replace,
    edit: (path, value, by, what) => replace(editSite(text, path, value), by, what),
    editAll: (edits, by, what) =>
      replace(
        edits.reduce((so, [path, value]) => editSite(so, path, value), text),
        by,
        what,
      ),
    async setMode(area, mode, by) {
      const areaName = file.areas.find((a) => a.id === area)?.name;
      if (!areaName) throw new Trouble('not-found', `There is no area ${area}.`, `Areas: ${file.areas.map((a) => a.id).join(', ')}.`);
      const modeName = compiled.modeNames.get(mode);
      if (!modeName) throw new Trouble('bad-input', `There is no mode ${mode}.`, `Modes: ${[...compiled.modeNames.keys()].join(', ')}.`);
      const change = { area, mode, since: clock.now(), by };
      await record.write(async (transaction) => {
        await areaModes.upsert(change, { transaction });
        await noteInLogbook(record, transaction, change.since, by, `set ${areaName} to ${modeName}`);
      });
      modes = [...modes.filter((m) => m.area !== area), change];
      listeners.forEach((l) => l({ kind: 'mode', change }));
    },
    onChange: (listener) => void listeners.push(listener),
  };
}

/** @throws Trouble 'bad-site' */
function checked(text: string): SiteFile {
  const result = readSite(text);
  if (result.ok) return result.site;
  throw badSite(result.faults);
}

const shownFaults = 3;

function badSite(faults: readonly Fault[]): Trouble {
  const shown = faults.slice(0, shownFaults).map(faultLine).join(' · ');
  const rest = faults.length > shownFaults ? ` · and ${faults.length - shownFaults} more` : '';
  return new Trouble(
    'bad-site',
    `The site file cannot be used: ${shown}${rest}.`,
    'Nothing was changed. Correct it and try again.',
    faults,
  );
}
