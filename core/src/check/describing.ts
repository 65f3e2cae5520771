// Whether AI services can be used as they are set up.

import type { SiteFile } from '../site';
import type { Fault } from '../problem';
import { ids, unknown } from './known';

export function describingFaults({ describing }: Pick<SiteFile, 'describing'>): Fault[] {
  const { services = [], order = {} } = describing ?? {};
  return [
    ...services.flatMap((service, i): Fault[] =>
      service.aDay?.money !== undefined && !service.price
        ? [{ path: `describing/services/${i}/aDay/money`, wrong: 'is an amount of money without a price', allowed: 'also a price' }]
        : [],
    ),
    ...Object.entries(order).flatMap(([use, list]) =>
      (list as readonly string[]).flatMap((id, i) => unknown(ids(services), id, `describing/order/${use}/${i}`, 'AI service')),
    ),
  ];
}
