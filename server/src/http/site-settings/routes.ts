// What a place is and has, part by part: its name and where it is, what it begins with, its areas, what it knows, whose quiet hours are when.

import { templateKinds, templateOf, canBegin } from '@nibber/core/templates';
import type { SiteFile } from '@nibber/core/site';
import { idOf } from '@nibber/core/words';
import { Problem } from '@nibber/core/problem';
import type { Request } from 'express';
import type { SiteEdit } from '../../db/site';
import { croppedPicture } from '../../media/drawings';
import type { Record } from '../../db';
import { editedFrom, route, type Route } from '../route';
import { maybeText, object, oneOf, text, typed } from '../schema';
import type { Services } from '../services';
import { siteParts, version } from '../shapes';
import type { Visitor } from '../../db/access';

export function siteSettingsRoutes({ site, record }: Pick<Services, 'site' | 'record'>): Route[] {
  const edit = async (request: Request, visitor: Visitor, what: string, edits: readonly SiteEdit[]) => {
    await site.edit(edits, { by: visitor, what, from: editedFrom(request) });
    return { version: site.version };
  };
  return [
    route({
      method: 'put',
      path: '/api/site/settings',
      may: 'set up',
      summary: 'The site’s name, time zone and location',
      edits: true,
      body: siteParts.site,
      answer: object({ version }),
      handle: ({ request, body, visitor }) => edit(request, visitor, 'changed the site’s name, time zone or location', [[['site'], body]]),
    }),
    route({
      method: 'post',
      path: '/api/site/template',
      may: 'set up',
      summary: 'Start with areas, modes and schedules for a home, a shop, or a shop with a flat; only without rules and schedules',
      edits: true,
      body: object({ kind: oneOf(...templateKinds) }),
      answer: object({ version }),
      async handle({ request, body, visitor }) {
        if (!canBegin(site.file))
          throw new Problem(
            'conflict',
            'This site already has rules or schedules.',
            'Change them under Rules and Site. Nothing was changed.',
          );
        const { areas, modes, schedules } = templateOf(body.kind);
        // Areas in which a camera stands stay.
        const used = site.file.areas.filter((a) => site.file.cameras.some((c) => c.area === a.id) && !areas.some((n) => n.id === a.id));
        return edit(request, visitor, `started as a ${body.kind.replaceAll('-', ' ')}`, [
          [['areas'], [...areas, ...used]],
          [['modes'], modes],
          [['schedules'], schedules],
        ]);
      },
    }),
    route({
      method: 'put',
      path: '/api/areas',
      may: 'set up',
      summary: 'Replace the areas, in order',
      edits: true,
      body: object({ areas: siteParts.areas }),
      answer: object({ version }),
      async handle({ request, body, visitor }) {
        if (body.areas.length === 0) throw new Problem('bad-input', 'A site has at least one area.', 'Keep one. Nothing was changed.');
        const inUse = site.file.areas.find((a) => !body.areas.some((n) => n.id === a.id) && usesOf(site.file, a.id).length > 0);
        if (inUse)
          throw new Problem(
            'conflict',
            `${inUse.name} is the area of ${usesOf(site.file, inUse.id).join(', ')}.`,
            'Give them another area first. Nothing was changed.',
          );
        return edit(request, visitor, 'changed the areas', [[['areas'], body.areas]]);
      },
    }),
    route({
      method: 'put',
      path: '/api/people/:person/quiet-hours',
      may: 'set up',
      summary: 'A person’s quiet hours; null for none',
      edits: true,
      body: object({ schedule: maybeText }),
      answer: object({ version }),
      async handle({ request, params, body, visitor }) {
        const person = site.file.people?.find((p) => p.id === params.person);
        if (!person) throw new Problem('not-found', `${params.person} not found.`, 'Reload the page.');
        return edit(request, visitor, `changed the quiet hours of ${person.name}`, [
          [['people', person.id, 'quietHours'], body.schedule ?? undefined],
        ]);
      },
    }),
    route({
      method: 'put',
      path: '/api/known',
      may: 'set up',
      summary: 'Replace the known people, vehicles and animals',
      edits: true,
      body: object({ known: siteParts.known }),
      answer: object({ version }),
      async handle({ request, body, visitor }) {
        return edit(request, visitor, 'changed the known people and vehicles', [[['known'], body.known.length ? body.known : undefined]]);
      },
    }),
    route({
      method: 'post',
      path: '/api/known',
      may: 'set up',
      summary: 'Save the object of an event as known, with its picture',
      body: object({ name: typed(80), event: typed(80), plate: typed(16) }, ['plate']),
      answer: object({ id: text, version }),
      async handle({ body, visitor }) {
        const picture = await pictureOf(record, body.event);
        const known = site.file.known ?? [];
        const id = idOf(
          body.name,
          known.map((k) => k.id),
          'thing',
        );
        await record.media.using(async (keep) => {
          const file = picture && (await keep(picture, 'jpg'));
          const entry = {
            id,
            name: body.name,
            ...(body.plate === undefined ? {} : { plate: body.plate }),
            ...(file ? { picture: file.name } : {}),
          };
          await site.edit([[['known'], [...known, entry]]], {
            by: visitor,
            what: `saved ${body.name} as known`,
            also: async (transaction) =>
              file && record.media.hold(transaction, { holder: 'known', holderId: id, role: 'picture', camera: null, takenAt: null, file }),
          });
        });
        return { id, version: site.version };
      },
    }),
  ];
}

/** Of a moment, the part of its picture around the thing; undefined where no picture is kept. @throws Problem 'not-found' */
async function pictureOf({ events, tracks, media }: Record, id: string): Promise<Buffer | undefined> {
  const thing = (await events.find(id)) ?? (await tracks.find(id));
  if (!thing) throw new Problem('not-found', 'This event is no longer stored.', 'Choose another one.');
  const held = (await media.of('ruleName' in thing ? 'event' : 'track', [id])).get(id)?.picture;
  const jpeg = held && (await media.read(held.name));
  return jpeg && thing.pictureBox ? croppedPicture(jpeg, thing.pictureBox) : jpeg;
}

/** What stands in an area, by name. */
const usesOf = ({ cameras, sensors = [], modeSchedules = [] }: SiteFile, area: string): string[] => [
  ...[...cameras, ...sensors].filter((e) => e.area === area).map((e) => e.name),
  ...modeSchedules.filter((s) => s.areas.includes(area)).map((s) => `the automatic mode changes ${s.id}`),
];
