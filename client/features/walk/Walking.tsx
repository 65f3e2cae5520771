// A walk test that is going on, to be read at arm's length: the gates of one rule light as they are passed; the others stand above it.

import { numberText } from '@nibber/core/words';
import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { Switch } from 'react-native-paper';
import type { Light } from '@nibber/core/walk-test';
import { Columns } from '../../ui/Columns';
import { Glyph } from '../../ui/Glyph';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { corner, target, usePalette } from '../../ui/theme';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import { problemWords, useEventQuery } from '../../state/api';
import { every } from '../../state/api/every';
import type { CameraAnswer } from '../../state/api/types';
import { LiveCamera } from '../cameras/LiveCamera';
import { gateWords } from '../sieve/words';
import { useEndWalkMutation } from '../../state/api/walk';
import type { ItemNow, StoredWalkTest, WalkNow } from '../../state/api/types';
import { useSignals } from './useSignals';
import { texts, expectWords, validityWords } from './words';

export function Walking({
  now,
  cameras,
  ended,
}: {
  now: WalkNow;
  cameras: readonly CameraAnswer[];
  ended: (kept: StoredWalkTest) => void;
}) {
  const [isLoud, setLoud] = useState(true);
  const [chosen, choose] = useFollowed(now.items);
  const [end, ending] = useEndWalkMutation();
  useSignals(now.items, isLoud);
  const item = now.items[chosen] ?? now.items[0]!;
  const camera = cameras.find((c) => item.cameras.includes(c.id));
  const finish = async () => {
    const answer = await end();
    if (answer.data) ended(answer.data);
  };
  const bottom = (
    <Row style={{ justifyContent: 'space-between' }}>
      <Row>
        <Switch value={isLoud} onValueChange={setLoud} aria-label={texts.soundAndBuzz} testID="walk-sound" />
        <Words tone="second">{texts.soundAndBuzz2}</Words>
      </Row>
      <Button words={texts.endTheTest} main disabled={ending.isLoading} onPress={() => void finish()} testID="end-walk" />
    </Row>
  );
  return (
    <Columns
      even
      main={
        <>
          {now.items.length > 1 && (
            <View style={{ gap: 6 }}>
              {now.items.map((i, k) => (
                <ItemLine key={k} item={i} chosen={k === chosen} press={() => choose(k)} />
              ))}
            </View>
          )}
          <Panel item={item} />
          {ending.isError && <Attention words={problemWords(ending.error) ?? ''} />}
          {bottom}
        </>
      }
      side={camera && <LiveCamera camera={camera} />}
    />
  );
}

/** The item that moved last is looked at, unless someone chose one a moment ago. */
function useFollowed(items: readonly ItemNow[]): [number, (chosen: number) => void] {
  const [chosen, setChosen] = useState(0);
  const held = useRef(0);
  const before = useRef(items.map((i) => i.steps));
  useEffect(() => {
    const moved = items.findIndex((i, k) => i.steps > (before.current[k] ?? 0));
    before.current = items.map((i) => i.steps);
    if (moved >= 0 && Date.now() > held.current) setChosen(moved);
  }, [items]);
  const choose = (k: number) => {
    held.current = Date.now() + 10_000;
    setChosen(k);
  };
  return [chosen, choose];
}

const stateOf = (item: ItemNow): 'done' | 'wrong' | 'going' => {
  if (item.result.state === 'answered') return item.kind === 'rule' && item.expect === 'quiet' ? 'wrong' : 'done';
  return 'going';
};

function ItemLine({ item, chosen, press }: { item: ItemNow; chosen: boolean; press: () => void }) {
  const p = usePalette();
  const state = stateOf(item);
  return (
    <Touch
      press={press}
      role="button"
      isPressed={chosen}
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 10,
        minHeight: target,
        paddingHorizontal: 10,
        borderRadius: corner,
        borderWidth: 1,
        borderColor: chosen ? p.work : p.rule,
        backgroundColor: chosen ? p.wash : p.surface,
      }}
    >
      <View style={{ width: 22 }}>
        {state === 'done' && <Glyph name="check" colour={p.work} />}
        {state === 'wrong' && <Glyph name="attention" colour={p.attentionInk} />}
        {state === 'going' && item.there > 0 && (
          <View style={{ width: 12, height: 12, borderRadius: 6, marginLeft: 5, backgroundColor: p.work }} />
        )}
      </View>
      <Words style={{ flex: 1 }} lines={1}>
        {item.name}
      </Words>
      <Words size="small" tone="second">
        {validityWords(item)}
      </Words>
    </Touch>
  );
}

function Panel({ item }: { item: ItemNow }) {
  const p = usePalette();
  const asked = item.lights.filter((l) => l.state !== 'lifted');
  const state = stateOf(item);
  return (
    <Card style={{ gap: 12 }}>
      <View>
        <Words size="title" bold heading={2}>
          {item.name}
        </Words>
        <Words tone="second">{expectWords(item)}</Words>
      </View>
      {item.kind === 'rule' && (
        <View role="list" aria-label={texts.gates} testID="walk-gates">
          {asked.map((l, i) => (
            <GateLight key={l.gate} light={l} isLast={i === asked.length - 1} />
          ))}
        </View>
      )}
      <View
        role="status"
        testID="walk-stands"
        style={{
          borderRadius: corner,
          padding: 14,
          backgroundColor: state === 'done' ? p.work : p.wash,
          borderWidth: state === 'wrong' ? 2 : 0,
          borderColor: p.attention,
        }}
      >
        <Words size="head" bold style={{ color: state === 'done' ? p.onWork : p.ink, textAlign: 'center' }}>
          {validityWords(item)}
        </Words>
      </View>
      {item.result.state === 'answered' && item.result.event && <Rang event={item.result.event} at={item.result.at} />}
      {item.kind === 'rule' && (
        <Words size="small" tone="second">
          {texts.modeScheduleAndPresenceAre}
        </Words>
      )}
    </Card>
  );
}

/** One gate, large; the column goes on below it as far as the walk has come. */
function GateLight({ light: { gate, state, found, wanted }, isLast }: { light: Light; isLast: boolean }) {
  const p = usePalette();
  const isPassed = state === 'passed';
  const isRefused = state === 'refused';
  const colour = isPassed ? p.work : isRefused ? p.attention : p.rule;
  return (
    <View
      role="listitem"
      aria-label={`${gateWords[gate]}: ${isPassed ? 'passed' : isRefused ? texts.stoppedHereFoundExpected(found, wanted) : texts.notReached}`}
      testID={`light-${gate}-${state}`}
      style={{ flexDirection: 'row', gap: 12, alignItems: 'center', minHeight: 40 }}
    >
      <View style={{ width: 34, alignSelf: 'stretch', alignItems: 'center' }}>
        <View
          style={{
            width: isPassed ? 22 : 4,
            height: isRefused ? '50%' : '100%',
            backgroundColor: colour,
            borderBottomLeftRadius: isLast ? 6 : 0,
            borderBottomRightRadius: isLast ? 6 : 0,
          }}
        />
        {isRefused && <View style={{ width: 34, height: 6, backgroundColor: colour }} />}
      </View>
      <Words size="title" bold={isPassed || isRefused} tone={state === 'ahead' ? 'second' : 'ink'} style={{ width: 118 }}>
        {gateWords[gate]}
      </Words>
      <View style={{ flex: 1 }}>
        {found !== undefined && <Words bold={isRefused}>{found}</Words>}
        {isRefused && (
          <Words size="small" tone="second">
            {texts.expects(wanted)}
          </Words>
        )}
      </View>
    </View>
  );
}

/** Whose phone has rung, and after how long. */
function Rang({ event, at }: { event: string; at: number }) {
  const { data: sent } = useEventQuery(event, every(2000));
  if (!sent) return <Words tone="second">{texts.sendingToPhones}</Words>;
  if (sent.alerts.length === 0) return <Words tone="attentionInk">{texts.itNotifiesNoOne}</Words>;
  return (
    <View role="status" testID="walk-rang">
      {sent.alerts.map((a) => (
        <Words key={a.id} tone={a.state === 'sent' || a.state === 'waiting' ? 'ink' : 'attentionInk'}>
          {a.state === 'sent' && a.sentAt
            ? texts.sPhoneReceivedItAfter(a.person, numberText(Math.max(0, (a.sentAt - at) / 1000), 1))
            : a.state === 'waiting'
              ? texts.sending(a.person)
              : texts.notSentTo(a.person, a.why ?? texts.itCouldNotBeDelivered)}
        </Words>
      ))}
    </View>
  );
}
