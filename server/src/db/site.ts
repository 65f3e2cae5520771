// The site as it is set up now, its earlier versions, and the modes of its areas.

import { Op, type Transaction } from 'sequelize';
import { readSite, upgradeSite, type SiteEdit, type SitePath } from '@nibber/core/check';
import { changesAt, revertChange } from '@nibber/core/difference';
import { changesAccess, refuseChangedOwners } from '@nibber/core/people';
import { refuseUnconfirmed, type Actor } from '@nibber/core/permissions';
import { compileSite, type CompiledSite, type SiteFile } from '@nibber/core/site';
import { problemLine, Problem, type FieldProblem } from '@nibber/core/problem';
import { listed } from '@nibber/core/words';
import type { Clock } from '../base/clock';
import { letGoOfGone, refuseWithoutOwner } from './removed';
import type { Doer } from '../base/events';
import type { Record } from './index';
import { refuseLookalikes } from './names';
import { openSiteText, type TextDone } from './site-text';
import type { AreaMode, SiteChange } from '../base/events';

export type { SiteEdit, SitePath } from '@nibber/core/check';

export type Deed = {
  /** What they may decides what of the site they can change. */
  readonly by: Actor;
  /** For the logbook. */
  readonly what: string;
  /** The version that the edit was made from: where what it changes was changed since, it is refused. */
  readonly from?: number | undefined;
  /** What is written in the same transaction. */
  readonly also?: (transaction: Transaction) => Promise<unknown>;
};

/** When it was made, by whom, and what was done, for the logbook. */
export type SiteVersion = { readonly version: number; readonly at: number; readonly by: string; readonly what: string };

export type SiteBook = {
  readonly file: SiteFile;
  readonly text: string;
  /** Grows with every change. */
  readonly version: number;
  readonly compiled: CompiledSite;
  readonly modes: readonly AreaMode[];
  /**
   * Replaces the whole site. Changes are made one after the other, each upon what the one before left.
   * @throws Problem 'bad-site' with every fault, 'conflict' with what was changed since `from`; nothing is changed then
   */
  replace(text: string, deed: Deed): Promise<void>;
  /** Changes parts of it as one version, comments elsewhere kept. A function is given the site as it is when its turn comes. @throws as `replace` */
  edit(edits: readonly SiteEdit[] | ((file: SiteFile) => readonly SiteEdit[]), deed: Deed): Promise<void>;
  /** Newest first, those before a version. */
  versions(before: number | undefined, max: number): Promise<readonly SiteVersion[]>;
  /** The text of one. @throws Problem 'not-found' */
  textOf(version: number): Promise<string>;
  /** Takes back what one version changed, and nothing else. @throws Problem 'not-found'; 'conflict' with what of it was changed since */
  revertChange(version: number, by: Actor): Promise<void>;
  /** Creates an owner; `also` is called with them in the same transaction. */
  addOwner(name: string, also: (person: string, transaction: Transaction) => Promise<unknown>): Promise<void>;
  setMode(area: string, mode: string, by: Doer): Promise<void>;
  /** Several areas as one step: all of them, or none. @throws Problem for an area or a mode that is not there */
  setModes(areas: readonly string[], mode: string, by: Doer): Promise<void>;
  /** What is wrong with a text, and on which lines, or what it would change; nothing is changed. @throws Problem 'bad-site' where it takes too long */
  check(text: string): Promise<TextDone<{ kind: 'check'; text: string; against: SiteFile }>>;
  onChange(listener: (change: SiteChange) => void): void;
  close(): Promise<void>;
};

const emptySite = `nibber: 2
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
  const texts = openSiteText();
  const stored = await siteVersions.findOne({ order: [['id', 'DESC']] });
  let text = upgradeSite(stored?.text ?? emptySite);
  let file = checked(text);
  let compiled = compileSite(file);
  let modes: AreaMode[] = (await areaModes.findAll()).map((row) => ({ area: row.area, mode: row.mode, since: row.since, by: row.by }));

  // Accounts of people who went before accounts went with them.
  if (stored)
    await record.write((transaction) =>
      record.tables.accounts.destroy({ where: { person: { [Op.notIn]: (file.people ?? []).map((p) => p.id) } }, transaction }),
    );

  let version = stored?.id ?? 0;
  let turn: Promise<unknown> = Promise.resolve();
  /** Work on the site has it to itself: what it reads is what it changes. */
  const alone = <T>(work: () => Promise<T>): Promise<T> => {
    const run = turn.then(work);
    turn = run.catch(() => {});
    return run;
  };
  const fileOf = async (id: number): Promise<SiteFile | undefined> => {
    if (id === version) return file;
    if (id === 0) return checked(emptySite);
    const row = await siteVersions.findByPk(id);
    const read = row && (await texts.work({ kind: 'read', text: row.text }));
    return read?.ok ? read.site : undefined;
  };
  const commit = async (next: string, { by, what, also }: Deed) => {
    const read = await texts.work({ kind: 'read', text: next, against: file });
    if (!read.ok) throw badSite(read.problems, read.count);
    const { site: nextFile, changes } = read;
    // Every way in ends here: a form, the site file, a version that is put back.
    refuseChangedOwners(file, nextFile, by);
    refuseLookalikes(file, nextFile);
    if (changesAccess(file, nextFile)) refuseUnconfirmed(by, clock.machine());
    const nextCompiled = compileSite(nextFile);
    version = await record.write(async (transaction) => {
      const row = await siteVersions.create(
        { at: clock.now(), by: by.name, what, text: read.text, paths: pathsOf(changes) },
        { transaction },
      );
      await record.logbook.note(transaction, clock.now(), by, what);
      for (const { path, words } of changes)
        if (path.startsWith('people/')) await record.logbook.note(transaction, clock.now(), by, `changed people: ${words}`);
      await letGoOfGone(record, file, nextFile, transaction);
      await also?.(transaction);
      if (!by.isProgram) await refuseWithoutOwner(record, file, nextFile, transaction);
      return row.id;
    });
    text = read.text;
    file = nextFile;
    compiled = nextCompiled;
    listeners.forEach((l) => l({ kind: 'site' }));
  };
  /** @throws Problem 'conflict' where these places were changed since a version */
  const refuseIfChanged = async (from: number | undefined, paths: readonly SitePath[]) => {
    if (from === undefined || from === version) return;
    const others = await siteVersions.findAll({
      attributes: ['id', 'by', 'paths'],
      where: { id: { [Op.gt]: from } },
      limit: maxBehind + 1,
    });
    const places = paths.map((p) => p.join('/'));
    // Only what touched these places; what is older than that was kept may have.
    const touching = others.filter((o) => !o.paths || o.paths.some((p) => places.some((own) => isWithin(p, own) || isWithin(own, p))));
    if (touching.length === 0) return;
    const before = others.length > maxBehind ? undefined : await fileOf(from);
    if (!before) throw new Problem('conflict', 'The version you started from is no longer stored.', 'Reload the page and change it there.');
    const changes = changesAt(paths, before, file);
    if (changes.length === 0) return;
    const who = new Set(touching.flatMap((o) => (o.paths ? o.by : [])));
    throw new Problem(
      'conflict',
      `${[...who].join(', ') || 'Someone'} changed this meanwhile: ${changes
        .slice(0, shownProblems)
        .map((c) => c.words)
        .join(' · ')}${changes.length > shownProblems ? ` · and ${changes.length - shownProblems} more` : ''}.`,
      'Your change was not saved. Check the current version and change it again if needed.',
      changes.map((c) => ({ path: c.path, wrong: c.words, allowed: `as it was in version ${from}` })),
    );
  };
  const setModes = async (areas: readonly string[], mode: string, by: Doer) => {
    const names = areas.map((area) => {
      const name = file.areas.find((a) => a.id === area)?.name;
      if (!name) throw new Problem('not-found', `Area ${area} not found.`, `Areas: ${file.areas.map((a) => a.id).join(', ')}.`);
      return name;
    });
    const modeName = compiled.modeNames.get(mode);
    if (!modeName) throw new Problem('bad-input', `Mode ${mode} not found.`, `Modes: ${[...compiled.modeNames.keys()].join(', ')}.`);
    const since = clock.now();
    const changes = areas.map((area) => ({ area, mode, since, by: by.name }));
    await record.write(async (transaction) => {
      for (const change of changes) await areaModes.upsert(change, { transaction });
      await record.logbook.note(transaction, since, by, `set ${listed(names, 'and')} to ${modeName}`);
    });
    modes = [...modes.filter((m) => !areas.includes(m.area)), ...changes];
    changes.forEach((change) => listeners.forEach((l) => l({ kind: 'mode', change })));
  };
  const everything: SitePath = [];
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
    get version() {
      return version;
    },
    replace: (next, deed) =>
      alone(async () => {
        await refuseIfChanged(deed.from, [everything]);
        await commit(next, deed);
      }),
    edit: (wanted, deed) =>
      alone(async () => {
        const edits = typeof wanted === 'function' ? wanted(file) : wanted;
        await refuseIfChanged(
          deed.from,
          edits.map(([path]) => path),
        );
        await commit(await texts.work({ kind: 'edit', text, edits }), deed);
      }),
    async versions(before, max) {
      const where = before === undefined ? {} : { id: { [Op.lt]: before } };
      const rows = await siteVersions.findAll({ attributes: ['id', 'at', 'by', 'what'], where, order: [['id', 'DESC']], limit: max });
      return rows.map((row) => ({ version: row.id, at: row.at, by: row.by, what: row.what }));
    },
    async textOf(id) {
      const row = await siteVersions.findByPk(id);
      if (!row) throw new Problem('not-found', `Version ${id} not found.`, 'Choose one from the list.');
      const read = await texts.work({ kind: 'read', text: row.text });
      return read.ok ? read.text : row.text;
    },
    revertChange: (id, by) =>
      alone(async () => {
        const row = await siteVersions.findByPk(id);
        const earlier = await siteVersions.findOne({ where: { id: { [Op.lt]: id } }, order: [['id', 'DESC']] });
        const [before, after] = [await fileOf(earlier?.id ?? 0), row && (await fileOf(id))];
        if (!row || !before || !after) throw new Problem('not-found', 'This change is no longer stored.', 'Change the site by hand.');
        const { edits, clashes } = revertChange(before, after, file);
        if (clashes.length)
          throw new Problem(
            'conflict',
            `It was changed again since: ${clashes.slice(0, shownProblems).join(' · ')}.`,
            'Nothing was restored. Please change it by hand.',
          );
        await commit(await texts.work({ kind: 'edit', text, edits }), { by, what: `reverted: ${row.what}` });
      }),
    addOwner: (name, also) =>
      alone(async () => {
        const people = file.people ?? [];
        const known = people.find((p) => p.role === 'owner');
        const ids = new Set(people.map((p) => p.id));
        const id = known?.id ?? ['owner', ...people.map((_, i) => `owner-${i + 2}`)].find((i) => !ids.has(i))!;
        const named = { ...known, id, name, role: 'owner' as const };
        await commit(await texts.work({ kind: 'edit', text, edits: [[['people', id], named]] }), {
          by: { name, role: 'owner', person: id },
          what: 'created the owner’s account',
          also: (transaction) => also(id, transaction),
        });
      }),
    setMode: (area, mode, by) => setModes([area], mode, by),
    setModes,
    check: (given) => texts.work({ kind: 'check', text: given, against: file }),
    onChange: (listener) => void listeners.push(listener),
    close: texts.close,
  };
}

/** @throws Problem 'bad-site' */
function checked(text: string): SiteFile {
  const result = readSite(text);
  if (result.ok) return result.site;
  throw badSite(result.problems, result.problems.length);
}

const shownProblems = 3;

/** So many versions back an edit may have been made from. */
const maxBehind = 300;
const maxPaths = 100;
/** The places that a change touched; where these are many, the parts of the site that they are in. */
const pathsOf = (changes: readonly { readonly path: string }[]): string[] =>
  changes.length <= maxPaths ? changes.map((c) => c.path) : [...new Set(changes.map((c) => c.path.split('/')[0]!))];
const isWithin = (place: string, of: string) => of === '' || place === of || place.startsWith(`${of}/`);

/** @param count of all faults, where only the first of them are given */
function badSite(problems: readonly FieldProblem[], count: number): Problem {
  const shown = problems.slice(0, shownProblems).map(problemLine).join(' · ');
  const rest = count > shownProblems ? ` · and ${count - shownProblems} more` : '';
  return new Problem(
    'bad-site',
    `The site file cannot be used: ${shown}${rest}.`,
    'Nothing was changed. Correct it and try again.',
    problems,
  );
}
