// Who is notified, and how: everyone, a role, or single people; and other programs, each by its own channel.

import { personChannels, type PersonChannel } from '@nibber/core/channels';
import { SomeOf } from '../../../ui/Choices';
import { Words } from '../../../ui/Words';
import { capital } from '../../../ui/capital';
import { channelNamesOf } from '../../channels/words';
import type { Rule } from '@nibber/core/site';
import type { Site } from '../../../state/api/types';
import { personWords, roles, notifiesEverybody } from '../wording';
import { texts } from '../words';

const everyone = 'everyone';

type Notify = NonNullable<Rule['notify']>;

export function NotifyPart({ notify, site, change }: { notify: Notify; site: Site; change: (notify: Notify) => void }) {
  const isProgram = (to: string) => site.receivers.some((r) => r.id === to);
  const people = [...new Set(notify.filter((t) => !isProgram(t.to)).map((t) => t.to))];
  const programs = notify.filter((t) => isProgram(t.to)).map((t) => t.to);
  const ways = personChannels.filter((c) => notify.some((t) => t.channel === c));
  const channel: readonly PersonChannel[] = ways.length ? ways : ['push'];
  const set = (to: readonly string[], channels: readonly PersonChannel[], notified: readonly string[]) =>
    change([
      ...to.flatMap((t) => channels.map((c) => ({ to: t, channel: c }))),
      ...site.receivers.filter((r) => notified.includes(r.id)).map((r) => ({ to: r.id, channel: r.by })),
    ]);
  const toggled = <T extends string>(all: readonly T[], one: T) => (all.includes(one) ? all.filter((a) => a !== one) : [...all, one]);
  const toggle = (who: string) => {
    if (who === everyone) return set(notifiesEverybody({ notify }) ? [] : roles, channel, programs);
    set(toggled(people, who), channel, programs);
  };
  const choice = (value: string, detail?: string) => ({
    value,
    words: capital(personWords(value, site)),
    detail,
    testID: `notify-${value}`,
  });
  return (
    <>
      <SomeOf
        label={texts.whoIsNotified}
        choices={[
          { value: everyone, words: texts.everyone, testID: 'notify-everyone' },
          ...roles.map((role) =>
            choice(
              role,
              site.people
                .filter((p) => p.role === role)
                .map((p) => p.name)
                .join(', ') || texts.noOneYet,
            ),
          ),
          ...site.people.map((p) => choice(p.id)),
        ]}
        values={notifiesEverybody({ notify }) ? [everyone, ...people] : people}
        toggle={toggle}
        rows
      />
      {site.receivers.length > 0 && (
        <>
          <Words bold>{texts.otherPrograms}</Words>
          <SomeOf
            label={texts.otherPrograms}
            choices={site.receivers.map((r) => ({ value: r.id, words: r.name, detail: channelNamesOf[r.by], testID: `notify-${r.id}` }))}
            values={programs}
            toggle={(id) => set(people, channel, toggled(programs, id))}
            rows
          />
        </>
      )}
      <Words bold>{texts.notifyPeopleBy}</Words>
      <SomeOf
        label={texts.notifyPeopleBy}
        choices={personChannels.map((c) => ({ value: c, words: channelNamesOf[c], testID: `notify-by-${c}` }))}
        values={channel}
        // At least one: without a channel no one is notified.
        toggle={(c) => (channel.length > 1 || !channel.includes(c)) && set(people, toggled(channel, c), programs)}
      />
      <Words size="small" tone="second">
        {texts.ifOneChannelFailsThe}
      </Words>
    </>
  );
}
