// A question put right by hand: what is asked for, of what, where, and on which day.

import { DateTime } from 'luxon';
import { useState } from 'react';
import { View } from 'react-native';
import type { Query } from '@nibber/core/asking';
import { useCamerasQuery, useSiteQuery } from '../../state/api';
import { OneOf, SomeOf } from '../../ui/Choices';
import { DateField } from '../../ui/DateField';
import { Sheet } from '../../ui/Sheet';
import { Button, Row } from '../../ui/Surface';
import { day } from '../../ui/times';
import { Words } from '../../ui/Words';
import { texts, kinds, wantedWords } from './words';

type Props = { query: Query; open: boolean; close: () => void; change: (next: Query) => void };

export function Correct({ open, close, ...props }: Props) {
  return (
    <Sheet title={texts.correctTheQuestion} open={open} close={close}>
      {open && <Meant close={close} {...props} />}
    </Sheet>
  );
}

function Meant({ query, close, change }: Omit<Props, 'open'>) {
  const [meant, setMeant] = useState(query);
  const { data: site } = useSiteQuery();
  const { data: cameras = [] } = useCamerasQuery();
  const zone = site?.settings.timezone ?? 'UTC';
  const toggled = (all: readonly string[], one: string) => (all.includes(one) ? all.filter((o) => o !== one) : [...all, one]);
  const { from, to } = meant.span ?? { from: null, to: null };
  // A span that is one whole day is shown as that.
  const start = from === null ? undefined : DateTime.fromMillis(from, { zone });
  const isDay = start && to === start.plus({ days: 1 }).toMillis() && start.equals(start.startOf('day'));
  const choose = (date: string) => {
    const of = DateTime.fromISO(date, { zone });
    const span = of.isValid
      ? { from: of.toMillis(), to: of.plus({ days: 1 }).toMillis(), words: texts.on(day(of.toMillis(), zone)) }
      : null;
    setMeant({ ...meant, span });
  };
  return (
    <View style={{ gap: 12 }}>
      <OneOf
        label={texts.lookingFor}
        choices={(Object.keys(wantedWords) as (keyof typeof wantedWords)[]).map((w) => ({
          value: w,
          words: wantedWords[w],
          testID: `meant-${w}`,
        }))}
        value={meant.wanted}
        choose={(wanted) => setMeant({ ...meant, wanted })}
      />
      <Words bold>{texts.what}</Words>
      <SomeOf
        label={texts.what}
        choices={kinds.map((k) => ({ ...k, testID: `meant-${k.value}` }))}
        values={[...meant.kinds]}
        toggle={(kind) => setMeant({ ...meant, kinds: toggled(meant.kinds, kind) })}
      />
      <Words bold>{texts.where}</Words>
      <SomeOf
        label={texts.where}
        choices={cameras.map((c) => ({ value: c.id, words: c.name, testID: `meant-at-${c.id}` }))}
        values={[...meant.cameras]}
        toggle={(id) => setMeant({ ...meant, cameras: toggled(meant.cameras, id) })}
      />
      <Words bold>{texts.when}</Words>
      <DateField label={texts.day} value={isDay ? start.toISODate()! : ''} choose={choose} testID="meant-day" />
      {meant.span && !isDay && (
        <Words size="small" tone="second">
          {texts.now(meant.span.words)}
        </Words>
      )}
      <Row>
        <Button words={texts.askAgain} main onPress={() => (change(meant), close())} testID="meant-ask" />
      </Row>
    </View>
  );
}
