// Phones that notifications go to: Web Push subscriptions, each of one person.

import { randomUUID } from 'node:crypto';
import { Trouble } from '@nibber/core/trouble';
import { noteInLogbook } from '../record/logbook';
import { mayBeCalled } from '../net/public-address';
import type { Parts } from './parts';
import { object, param, route, routeWithBody, textSchema, type Route } from './route';

const base64url = (bytes: number) => ({ type: 'string', pattern: `^[A-Za-z0-9_-]{${Math.ceil((bytes * 4) / 3)}}=*$` });
const subscription = object({
  label: textSchema(60),
  endpoint: textSchema(1000),
  keys: object({ p256dh: base64url(65), auth: base64url(16) }),
});
type Subscription = { label: string; endpoint: string; keys: { p256dh: string; auth: string } };

/** A person has a telephone, perhaps another, and a computer or two. */
const mostPhones = 5;

export function phoneRoutes({ config, record, clock, keys, site }: Parts): Route[] {
  const { phones } = record.tables;
  return [
    route('get', '/api/push-key', 'signed-in', async () => ({ key: keys.publicKey })),
    route('get', '/api/phones', 'signed-in', async () => {
      const rows = await phones.findAll({ where: { goneAt: null } });
      return rows.map((p) => ({
        id: p.id,
        label: p.label,
        person: site.file.people?.find((q) => q.id === p.person)?.name ?? p.person,
        createdAt: p.createdAt,
      }));
    }),
    routeWithBody<Subscription>('post', '/api/phones', 'signed-in', subscription, async ({ body, visitor }) => {
      const { person } = visitor;
      if (!person) throw new Trouble('not-allowed', 'A script has no phone.', 'Sign in as the person who is to be told.');
      if (!mayBeCalled(body.endpoint, config.ownPushServices))
        throw new Trouble(
          'bad-input',
          'The endpoint cannot be used.',
          'It must be the https address of a push service on the public network.',
        );
      return record.write(async (transaction) => {
        const known = await phones.findOne({ where: { endpoint: body.endpoint }, transaction });
        const others = (await phones.findAll({ where: { person, goneAt: null }, transaction })).filter((p) => p.id !== known?.id);
        if (others.length >= mostPhones)
          throw new Trouble(
            'conflict',
            `${visitor.name} has ${others.length} phones already.`,
            `Sign one of them off first: ${others.map((p) => p.label).join(', ')}.`,
          );
        const row = {
          id: known?.id ?? randomUUID(),
          person,
          label: body.label,
          endpoint: body.endpoint,
          p256dh: body.keys.p256dh,
          auth: body.keys.auth,
          createdAt: clock.now(),
          goneAt: null,
        };
        await phones.upsert(row, { transaction });
        if (!known) await noteInLogbook(record, transaction, clock.now(), visitor.name, `signed up the phone ${body.label}`);
        return { id: row.id };
      });
    }),
    route('delete', '/api/phones/:phone', 'signed-in', async ({ request, visitor }) => {
      const phone = await phones.findByPk(param(request, 'phone'));
      if (!phone || (phone.person !== visitor.person && visitor.role === 'member'))
        throw new Trouble('not-found', 'There is no such phone of yours.', 'See the list of phones.');
      await record.write(async (transaction) => {
        await phones.update({ goneAt: clock.now() }, { where: { id: phone.id }, transaction });
        await noteInLogbook(record, transaction, clock.now(), visitor.name, `signed off the phone ${phone.label}`);
      });
      return { id: phone.id };
    }),
  ];
}
