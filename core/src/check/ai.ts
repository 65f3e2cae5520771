// Whether AI services can be used as they are set up.

import type { SiteFile } from '../site';
import type { FieldProblem } from '../problem';
import { ids, unknown } from './known';

export function aiProblems({ ai }: Pick<SiteFile, 'ai'>): FieldProblem[] {
  const { services = [], order = {} } = ai ?? {};
  return [
    ...services.flatMap((service, i): FieldProblem[] =>
      service.aDay?.money !== undefined && !service.price
        ? [{ path: `ai/services/${i}/aDay/money`, wrong: 'is an amount of money without a price', allowed: 'also a price' }]
        : [],
    ),
    ...Object.entries(order).flatMap(([use, list]) =>
      (list as readonly string[]).flatMap((id, i) => unknown(ids(services), id, `ai/order/${use}/${i}`, 'AI service')),
    ),
  ];
}
