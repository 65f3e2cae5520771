// npm run -s site -- check FILE            one line for each fault
//                    diff FILE FILE        what changed from the first to the second, in words
//                    apply FILE [--yes]    what would change in the data folder (NIBBER_DATA); changed with --yes
//                    export                the site of the data folder, comments kept

import { theProgram } from '@nibber/core/permissions';
import { readFileSync } from 'node:fs';
import { readSite, upgradeSite } from '@nibber/core/check';
import { siteChanges, type SiteChange } from '@nibber/core/difference';
import type { SiteFile } from '@nibber/core/site';
import { problemLine } from '@nibber/core/problem';
import { machineClock } from '../base/clock';
import { readConfig } from '../base/config';
import { openRecord } from '../db';
import { openSiteBook, type SiteBook } from '../db/site';
import { asTyped, fail } from './options';

const use = 'Use: npm run -s site -- check FILE | diff FILE FILE | apply FILE [--yes] | export';

async function main() {
  const [verb, ...rest] = process.argv.slice(2);
  const files = rest.filter((r) => r !== '--yes');
  const wanted = { check: 1, diff: 2, apply: 1, export: 0 }[verb ?? ''];
  if (wanted === undefined || files.length !== wanted || (rest.length > files.length && verb !== 'apply')) fail(use);
  switch (verb) {
    case 'check':
      read(files[0]!);
      return;
    case 'diff':
      say(siteChanges(read(files[0]!).site, read(files[1]!).site), 'No differences.');
      return;
    case 'export':
      return withSite(async (site) => void process.stdout.write(site.text));
    case 'apply': {
      const { text, site: next } = read(files[0]!);
      return withSite(async (site) => {
        const changes = siteChanges(site.file, next);
        say(changes, 'No differences.');
        if (changes.length === 0 && text === site.text) return;
        if (!rest.includes('--yes')) return void process.stderr.write('Nothing was changed. Add --yes to apply it.\n');
        await site.replace(text, { by: theProgram('the command line'), what: 'applied a site file' });
        process.stderr.write('Applied. Restart a running server to use it.\n');
      });
    }
  }
}

const say = (changes: readonly SiteChange[], none: string) => console.log(changes.length ? changes.map((c) => c.words).join('\n') : none);

/** A sound site file; of any other each fault is said, and the program ends. */
function read(file: string): { readonly text: string; readonly site: SiteFile } {
  let text: string;
  try {
    text = readFileSync(asTyped(file), 'utf8');
  } catch (thrown) {
    fail((thrown as Error).message);
  }
  const result = readSite(text);
  if (result.ok) return { text: upgradeSite(text), site: result.site };
  for (const problem of result.problems) console.log(problemLine(problem));
  process.exit(1);
}

async function withSite(work: (site: SiteBook) => Promise<void>): Promise<void> {
  const record = await openRecord(readConfig().dataFolder);
  await work(await openSiteBook(record, machineClock()));
  await record.close();
}

main().catch((thrown: Error) => fail(thrown.message));
