// Who is told: everybody, all of a role, or one by one.

import { SomeOf } from '../../../ui/Choices';
import { Words } from '../../../ui/Words';
import { capital } from '../../../ui/capital';
import type { PartProps } from '../PartSheet';
import { personWords, roles, tellsEverybody } from '../wording';

const everybody = 'everybody';

export function TellPart({ rule, site, change }: PartProps) {
  const told = (rule.tell ?? []).map((t) => t.to);
  const set = (to: readonly string[]) => change({ ...rule, tell: to.map((t) => ({ to: t, by: 'push' as const })) });
  const toggle = (who: string) => {
    if (who === everybody) return set(tellsEverybody(rule) ? [] : roles);
    set(told.includes(who) ? told.filter((t) => t !== who) : [...told, who]);
  };
  const choice = (value: string, detail?: string) => ({ value, words: capital(personWords(value, site)), detail, testID: `tell-${value}` });
  return (
    <>
      <SomeOf
        label="Who is told?"
        choices={[
          { value: everybody, words: 'Everybody', testID: 'tell-everybody' },
          ...roles.map((role) => choice(role, site.people.filter((p) => p.role === role).map((p) => p.name).join(', ') || 'nobody yet')), // prettier-ignore
          ...site.people.map((p) => choice(p.id)),
        ]}
        values={tellsEverybody(rule) ? [everybody, ...told] : told}
        toggle={toggle}
        rows
      />
      <Words size="small" tone="second">
        By push, on the phones that are signed up.
      </Words>
    </>
  );
}
