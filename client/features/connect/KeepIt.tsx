// The pictures that came: which lenses to keep, what each is called, how it is turned, what its relays switch.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import type { AbilityName, Shown } from '@nibber/core/site';
import { TurnedPicture } from '../../picture/TurnedPicture';
import { Option } from '../../ui/Choice';
import { Field } from '../../ui/Field';
import { Attention, Button, Row, Sheet } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { troubleWords, useSiteQuery } from '../api/api';
import { useKeepCamerasMutation, type AttemptAnswer, type ChannelAnswer } from './api';
import { AreaChoice } from './AreaChoice';
import { clockWords, nextTurn, shownWords } from './words';

type Draft = { readonly isKept: boolean; readonly name: string; readonly area: string | undefined; readonly shown: Shown };

export function KeepIt({ attempt }: { attempt: AttemptAnswer }) {
  const router = useRouter();
  const { data: site } = useSiteQuery();
  const isOne = attempt.channels.length === 1;
  const [drafts, setDrafts] = useState<readonly Draft[]>(() =>
    attempt.channels.map((c) => ({ isKept: c.hasPicture && isOne, name: isOne ? '' : c.name, area: undefined, shown: {} })),
  );
  const [relays, setRelays] = useState<{ lamp?: string; siren?: string }>({});
  const [hasInfrared, setInfrared] = useState(false);
  const [keep, state] = useKeepCamerasMutation();
  const set = (i: number, change: Partial<Draft>) => setDrafts(drafts.map((d, at) => (at === i ? { ...d, ...change } : d)));
  const area = (d: Draft) => d.area ?? site?.areas[0]?.id ?? '';
  const kept = drafts.flatMap((d, i) => (d.isKept ? [{ ...d, channel: i }] : []));
  const unnamed = kept.some((d) => d.name.trim() === '');
  const { device } = attempt;
  const clock = device && clockWords(device.clockAheadMs);

  const save = async () => {
    const can: AbilityName[] = hasInfrared ? ['infrared'] : [];
    const cameras = kept.map((d) => ({
      channel: d.channel,
      name: d.name.trim(),
      area: area(d),
      shown: d.shown,
      ...(isOne ? { relays, can } : {}),
    }));
    const answer = await keep({ attempt: attempt.id, cameras });
    const [first] = answer.data?.cameras ?? [];
    if (first) router.navigate(cameras.length === 1 ? `/cameras/${first}` : '/cameras');
  };
  return (
    <>
      {clock && <Attention words={clock} />}
      {attempt.channels.map((channel, i) => (
        <Sheet key={channel.name}>
          <Lens attempt={attempt.id} channel={channel} index={i} isOne={isOne} draft={drafts[i]!} set={(change) => set(i, change)} />
          {drafts[i]!.isKept && (
            <>
              <Field
                label="What it is called"
                value={drafts[i]!.name}
                onChangeText={(name) => set(i, { name })}
                autoCapitalize="sentences"
                testID={`lens-name-${i}`}
              />
              <AreaChoice areas={site?.areas ?? []} area={area(drafts[i]!)} choose={(chosen) => set(i, { area: chosen })} />
            </>
          )}
        </Sheet>
      ))}
      {isOne && device && (
        <Sheet>
          <Words bold heading={2}>
            What it can do
          </Words>
          <Words tone="second">{[`${device.maker} ${device.model}`, ...device.can].join(', ')}</Words>
          {device.relays.length > 0 &&
            (['lamp', 'siren'] as const).map((what) => (
              <Row key={what}>
                <Words style={{ width: 88 }}>{what === 'lamp' ? 'Its lamp is' : 'Its siren is'}</Words>
                {device.relays.map((token) => (
                  <Button
                    key={token}
                    words={token}
                    pressed={relays[what] === token}
                    onPress={() => setRelays({ ...relays, [what]: relays[what] === token ? undefined : token })}
                    testID={`${what}-${token}`}
                  />
                ))}
              </Row>
            ))}
          <Option many words="It has an infrared light" chosen={hasInfrared} onPress={() => setInfrared(!hasInfrared)} />
        </Sheet>
      )}
      {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
      {unnamed && kept.length > 0 && <Words tone="second">Give it a name to keep it.</Words>}
      <Button
        words={kept.length > 1 ? `Keep ${kept.length} cameras` : 'Keep this camera'}
        main
        disabled={kept.length === 0 || unnamed || state.isLoading}
        onPress={() => void save()}
        testID="keep-camera"
      />
    </>
  );
}

type LensProps = {
  attempt: string;
  channel: ChannelAnswer;
  index: number;
  isOne: boolean;
  draft: Draft;
  set: (change: Partial<Draft>) => void;
};

function Lens({ attempt, channel, index, isOne, draft, set }: LensProps) {
  if (!channel.hasPicture) return <Words tone="second">{`${channel.name} gives no picture. ${channel.trouble ?? ''}`}</Words>;
  return (
    <>
      {!isOne && (
        <Option
          many
          words={channel.name}
          detail={`${channel.width} × ${channel.height}`}
          chosen={draft.isKept}
          onPress={() => set({ isKept: !draft.isKept })}
          testID={`lens-${index}`}
        />
      )}
      <View style={isOne ? undefined : { maxWidth: 280 }}>
        <TurnedPicture
          source={`/api/attempts/${attempt}/channels/${index}/picture.jpg`}
          words={`What ${channel.name} sees`}
          shown={draft.shown}
          width={channel.width}
          height={channel.height}
        />
      </View>
      {draft.isKept && (
        <Row>
          <Button glyph="turn" words="Turn" onPress={() => set({ shown: nextTurn(draft.shown) })} testID={`turn-${index}`} />
          <Button
            glyph="mirror"
            words="Mirror"
            pressed={draft.shown.mirrored === true}
            onPress={() => set({ shown: { ...draft.shown, mirrored: !draft.shown.mirrored } })}
            testID={`mirror-${index}`}
          />
          <Words size="small" tone="second">
            {shownWords(draft.shown)}
          </Words>
        </Row>
      )}
    </>
  );
}
