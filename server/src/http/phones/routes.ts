// Phones that notifications go to: Web Push subscriptions, each of one person.

import { Problem } from '@nibber/core/problem';
import { mayBeCalled } from '../../net/public-address';
import { may } from '@nibber/core/permissions';
import { route, type Route } from '../route';
import { list, named, object, text, typed } from '../schema';
import type { Services } from '../services';
import { instant, onlyId } from '../shapes';

const base64url = (bytes: number) => ({ type: 'string', pattern: `^[A-Za-z0-9_-]{${Math.ceil((bytes * 4) / 3)}}=*$` }) as const;
const subscription = object({ label: typed(60), endpoint: typed(1000), keys: object({ p256dh: base64url(65), auth: base64url(16) }) });

/** A person has a telephone, perhaps another, and a computer or two. */
const maxPhones = 5;

export function phoneRoutes({
  config,
  record,
  clock,
  keys,
  site,
  access,
}: Pick<Services, 'config' | 'record' | 'clock' | 'keys' | 'site' | 'access'>): Route[] {
  const { phones } = record;
  return [
    route({
      method: 'get',
      path: '/api/push-key',
      may: 'get alerts',
      summary: 'The public key for registering phones (RFC 8292)',
      answer: object({ key: text }),
      handle: async () => ({ key: keys.publicKey }),
    }),
    route({
      method: 'get',
      path: '/api/phones',
      may: 'get alerts',
      summary: 'Registered phones: your own, or all for the owner and installer',
      answer: list(named('Phone', object({ id: text, label: text, person: text, createdAt: instant }))),
      handle: async ({ visitor }) =>
        (await phones.all())
          .filter((p) => p.person === visitor.person || may(visitor.role, 'remove phones'))
          .map(({ id, label, person, createdAt }) => ({
            id,
            label,
            person: site.file.people?.find((p) => p.id === person)?.name ?? person,
            createdAt,
          })),
    }),
    route({
      method: 'post',
      path: '/api/phones',
      may: 'get alerts',
      summary: 'Register a phone (a push subscription, RFC 8030)',
      body: subscription,
      answer: onlyId,
      async handle({ body: { label, endpoint, keys: own }, visitor }) {
        const { person, session } = visitor;
        if (!person) throw new Problem('not-allowed', 'A token cannot register a phone.', 'Sign in as the person to notify.');
        if (!mayBeCalled(endpoint, config.ownPushServices))
          throw new Problem(
            'bad-input',
            'The endpoint cannot be used.',
            'It must be the https address of a push service on the public network.',
          );
        return { id: await phones.signUp({ person, label, endpoint, ...own, createdAt: clock.now(), session }, visitor, maxPhones) };
      },
    }),
    route({
      method: 'delete',
      path: '/api/phones/:phone',
      may: 'get alerts',
      summary: 'Unregister a phone',
      answer: onlyId,
      async handle({ params, visitor }) {
        const phone = await phones.find(params.phone);
        if (!phone || (phone.person !== visitor.person && !may(visitor.role, 'remove phones')))
          throw new Problem('not-found', 'Phone not found.', 'See the list of phones.');
        await phones.signOff(phone, visitor, clock.now());
        // Signed off from elsewhere it is lost, or another's now: it sees nothing more either.
        if (phone.session !== null && phone.session !== visitor.session) await access.end(phone.session);
        return { id: phone.id };
      },
    }),
  ];
}
