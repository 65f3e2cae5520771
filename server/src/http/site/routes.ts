// The site as a whole: its parts, its file, its modes, its logbook.

import { peopleSeen, siteSeen } from '@nibber/core/people';
import { isOn, nextChange, planWords } from '@nibber/core/schedules';
import { receiverChannels } from '@nibber/core/channels';
import { compileSchedule } from '@nibber/core/site';
import { problemLine } from '@nibber/core/problem';
import { may } from '@nibber/core/permissions';
import { editedFrom, route, type Route } from '../route';
import { count, list, maybeNumber, maybeText, named, object, text, typed, yesNo } from '../schema';
import type { Services } from '../services';
import { areaMode, classPrompts, instant, siteParts, version } from '../shapes';
import { notYet } from './not-yet';

const logPage = 100;
const maxSiteBytes = 2_000_000;
const fileText = typed(1_000_000);
const versionsPage = 50;

const schedules = named('SiteSchedule', object({ id: text, name: text, on: yesNo, next: maybeNumber, words: text, outside: maybeText }));
const siteAnswer = named(
  'Site',
  object({
    settings: siteParts.site,
    areas: siteParts.areas,
    modes: siteParts.modes,
    schedules: list(schedules),
    people: siteParts.people,
    receivers: list(object({ id: text, name: text, by: { enum: receiverChannels } as const })),
    known: siteParts.known,
    prompts: classPrompts,
    areaModes: list(areaMode),
    version,
    notYet: list(text),
    now: instant,
  }),
);
const file = object({ text, version });
const problem = named('SiteFileProblem', object({ line: count, words: text }));
const siteVersion = named('SiteVersion', object({ version, at: instant, by: text, what: text }));
const entry = named('LogEntry', object({ id: count, at: instant, who: text, what: text, event: maybeText }));

export function siteRoutes({ site, clock, record }: Pick<Services, 'site' | 'clock' | 'record'>): Route[] {
  return [
    route({
      method: 'get',
      path: '/api/site',
      may: 'look',
      summary: 'The site: areas, modes, schedules, people, and the mode of each area',
      answer: siteAnswer,
      async handle({ visitor }) {
        const {
          site: settings,
          areas,
          modes = [],
          schedules: plans = [],
          people: all = [],
          known = [],
          ai,
        } = siteSeen(site.file, visitor.visible);
        const people = peopleSeen(all, { person: visitor.person, setsUp: may(visitor.role, 'set up') });
        const now = clock.now();
        const schedulesNow = plans.map((h) => {
          const { plan } = compileSchedule(site.file, h.id);
          const next = nextChange(plan, now);
          return {
            id: h.id,
            name: h.name,
            on: isOn(plan, now),
            next: next === 'never' ? null : next,
            words: planWords(plan),
            outside: h.outside ?? null,
          };
        });
        const areaModes = site.modes.filter((m) => visitor.visible.area(m.area));
        const own = { areaModes, version: site.version, notYet: notYet(site.file), now };
        const receivers = (site.file.receivers ?? []).map(({ id, name, by }) => ({ id, name, by }));
        return { settings, areas, modes, schedules: schedulesNow, people, receivers, known, prompts: ai?.prompts ?? {}, ...own };
      },
    }),
    route({
      method: 'get',
      path: '/api/site/file',
      may: 'set up',
      summary: 'The site file as text',
      answer: file,
      handle: async () => ({ text: site.text, version: site.version }),
    }),
    route({
      method: 'put',
      path: '/api/site/file',
      confirms: true,
      may: 'set up',
      summary: 'Replace the site file',
      edits: true,
      body: object({ text: fileText }),
      maxBytes: maxSiteBytes,
      answer: file,
      async handle({ request, body, visitor }) {
        await site.replace(body.text, { by: visitor, what: 'replaced the site file', from: editedFrom(request) });
        return { text: site.text, version: site.version };
      },
    }),
    route({
      method: 'post',
      path: '/api/site/check',
      may: 'set up',
      summary: 'Check a site file: its problems and the changes it would make; nothing is changed',
      body: object({ text: fileText }),
      maxBytes: maxSiteBytes,
      answer: object({ problems: list(problem), changes: list(text) }),
      async handle({ body }) {
        const read = await site.check(body.text);
        if (read.ok) return { problems: [], changes: read.changes.map((c) => c.words) };
        const problems = read.problems.map((f, i) => ({
          line: read.lines[i]!,
          words: problemLine({ ...f, path: f.path.replace(/^line \d+, /, '') }),
        }));
        return { problems, changes: [] };
      },
    }),
    route({
      method: 'get',
      path: '/api/site/versions',
      may: 'set up',
      summary: 'The versions of the site, newest first; `before`: only earlier ones',
      query: object({ before: count }, ['before']),
      answer: list(siteVersion),
      handle: ({ query }) => site.versions(query.before, versionsPage),
    }),
    route({
      method: 'get',
      path: '/api/site/versions/:version',
      may: 'set up',
      summary: 'The site file of a version',
      answer: file,
      async handle({ params }) {
        const asked = Number(params.version);
        return { text: await site.textOf(asked), version: asked };
      },
    }),
    route({
      method: 'post',
      path: '/api/site/versions/:version/revert',
      may: 'set up',
      summary: 'Revert the change of one version',
      answer: object({ version }),
      async handle({ params, visitor }) {
        await site.revertChange(Number(params.version), visitor);
        return { version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/areas/:area/mode',
      may: 'arm',
      summary: 'Set the mode of an area',
      body: object({ mode: typed(40) }),
      answer: list(areaMode),
      async handle({ params, body, visitor }) {
        await site.setMode(params.area, body.mode, visitor);
        return site.modes.filter((m) => visitor.visible.area(m.area));
      },
    }),
    route({
      method: 'get',
      path: '/api/logbook',
      may: 'look',
      summary: 'The latest hundred entries of the logbook',
      answer: list(entry),
      async handle({ visitor: { visible, person } }) {
        const rows = await record.logbook.newest(logPage);
        const shown = (of: typeof rows) => of.map(({ id, at, who, what, event }) => ({ id, at, who, what, event }));
        if (visible.isWhole) return shown(rows);
        // Of one who sees a part, their own doings, and what was done about what they saw happen.
        const events = await record.events.some(rows.flatMap((l) => l.event ?? []));
        const isOwn = (l: (typeof rows)[number]) => l.person !== null && l.person === person;
        return shown(rows.filter((l) => isOwn(l) || events.some((e) => e.id === l.event && visible.happened(e))));
      },
    }),
  ];
}
