// The mode of one area, or of several at once. Before one that arms is set it says what it will do, and what is in the way.

import { useState } from 'react';
import { problemWords } from '../../state/api';
import { useArmingQuery, useSetAreasMutation } from '../../state/api/modes';
import type { Site } from '../../state/api/types';
import { OneOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { Sheet } from '../../ui/Sheet';
import { Attention, Waiting } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useIsOfHouse } from '../session/may';
import { texts } from './words';

type Props = {
  site: Site;
  areas: readonly string[];
  /** What it is the mode of. */
  label: string;
  current: string | undefined;
  testID: string;
};

export function ModeChoice({ site, areas, label, current, testID }: Props) {
  const say = useSay();
  const isOfHouse = useIsOfHouse();
  const [setAreas, state] = useSetAreasMutation();
  const [asked, setAsked] = useState<string>();
  const set = async (mode: string) => {
    setAsked(undefined);
    const { error } = await setAreas({ areas, mode });
    if (error) say(problemWords(error) ?? '');
  };
  const choose = (mode: string) => (site.modes.find((m) => m.id === mode)?.armed && mode !== current ? setAsked(mode) : void set(mode));
  return (
    <>
      <OneOf
        label={label}
        choices={site.modes.map((m) => ({ value: m.id, words: m.name, testID: `${testID}-${m.id}` }))}
        value={current}
        choose={choose}
        disabled={state.isLoading || !isOfHouse}
        wide
      />
      {asked !== undefined && (
        <Before site={site} areas={areas} mode={asked} set={() => void set(asked)} close={() => setAsked(undefined)} />
      )}
    </>
  );
}

type BeforeProps = { site: Site; areas: readonly string[]; mode: string; set: () => void; close: () => void };

function Before({ site, areas, mode, set, close }: BeforeProps) {
  const { data, error } = useArmingQuery({ mode, areas });
  const name = site.modes.find((m) => m.id === mode)?.name ?? mode;
  const where = areas.map((a) => site.areas.find((k) => k.id === a)?.name ?? a).join(', ');
  const isInTheWay = (data?.inTheWay.length ?? 0) > 0;
  return (
    <Sheet
      title={`${name}: ${where}`}
      open
      close={close}
      // Someone in a hurry to arm does not wait for the forecast.
      footer={
        <Footer words={isInTheWay ? texts.armAnyway : texts.arm} save={set} canSave cancel={close} testID="arm" cancelTestID="arm-cancel" />
      }
    >
      {!data && !error && <Waiting words={texts.checkingTheRules} />}
      {error && <Attention words={problemWords(error) ?? ''} />}
      {data && data.rules.length > 0 && (
        <>
          <Words bold>{texts.whatWillHappen}</Words>
          {data.rules.map((r) => (
            <Words key={r.id}>{r.name}</Words>
          ))}
        </>
      )}
      {data?.inTheWay.map((words) => (
        <Attention key={words} words={words} />
      ))}
      {data && !isInTheWay && <Words tone="second">{texts.noProblemsFound}</Words>}
    </Sheet>
  );
}
