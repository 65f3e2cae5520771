// The pictures that came: which lenses to keep, what each is called, how it is turned, what its relays switch.

import { useRouter } from 'expo-router';
import { View } from 'react-native';
import type { CapabilityName, Orientation } from '@nibber/core/site';
import { TurnedPicture } from '../../picture/TurnedPicture';
import * as checks from '../../state/api/checks';
import { Check } from '../../ui/Choices';
import { problemsBy, FormChoice, FormField, useForm, type Problems } from '../../ui/Form';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords, useSiteQuery } from '../../state/api';
import { useSaveCamerasMutation } from '../../state/api/connect';
import type { AttemptAnswer, ChannelAnswer } from '../../state/api/types';
import { FormArea } from './AreaChoice';
import { texts, clockWords, nextTurn, shownWords } from './words';

type Lens = { isKept: boolean; name: string; area: string; orientation: Orientation };
type Filled = { lenses: Lens[]; relays: { lamp: string; siren: string }; hasInfrared: boolean };

/** Each lens that is kept needs a name, and an area. */
const problemsOf = ({ lenses }: Filled): Problems => {
  const problems = lenses.map(({ isKept, name, area }, i) =>
    isKept
      ? Object.entries(problemsBy(checks.paired, { name: name.trim(), area })).map(([field, words]) => [`lenses.${i}.${field}`, words])
      : [],
  );
  return Object.fromEntries(problems.flat()) as Problems;
};

export function SaveCamera({ attempt }: { attempt: AttemptAnswer }) {
  const { data: site } = useSiteQuery();
  return site ? <LensForm attempt={attempt} areas={site.areas} /> : null;
}

function LensForm({ attempt, areas }: { attempt: AttemptAnswer; areas: readonly { id: string; name: string }[] }) {
  const router = useRouter();
  const isOne = attempt.channels.length === 1;
  const start: Filled = {
    lenses: attempt.channels.map((c) => ({
      isKept: c.hasPicture && isOne,
      name: isOne ? '' : c.name,
      area: areas[0]?.id ?? '',
      orientation: {},
    })),
    relays: { lamp: '', siren: '' },
    hasInfrared: false,
  };
  const { control, handleSubmit, watch, setValue, formState } = useForm<Filled>(start, problemsOf);
  const [keep, state] = useSaveCamerasMutation();
  const { lenses, hasInfrared } = watch();
  const kept = lenses.filter((d) => d.isKept).length;
  const { device } = attempt;
  const clock = device && clockWords(device.clockAheadMs);
  const change = { shouldValidate: true, shouldDirty: true };
  const save = handleSubmit(async (filled) => {
    const capabilities: CapabilityName[] = filled.hasInfrared ? ['infrared'] : [];
    const { lamp, siren } = filled.relays;
    const cameras = filled.lenses.flatMap(({ isKept, name, area, orientation }, channel) =>
      isKept
        ? [
            {
              channel,
              name: name.trim(),
              area,
              orientation,
              ...(isOne ? { relays: { ...(lamp && { lamp }), ...(siren && { siren }) }, capabilities } : {}),
            },
          ]
        : [],
    );
    const answer = await keep({ attempt: attempt.id, cameras });
    const [first] = answer.data?.cameras ?? [];
    if (first) router.navigate(cameras.length === 1 ? `/cameras/${first}` : '/cameras');
  });
  return (
    <>
      {clock && <Attention words={clock} />}
      {attempt.channels.map((channel, i) => (
        <Card key={channel.name}>
          <LensPicture
            attempt={attempt.id}
            channel={channel}
            index={i}
            isOne={isOne}
            lens={lenses[i]!}
            keep={(isKept) => setValue(`lenses.${i}.isKept`, isKept, change)}
            show={(orientation) => setValue(`lenses.${i}.orientation`, orientation, change)}
          />
          {lenses[i]!.isKept && (
            <>
              <FormField
                control={control}
                name={`lenses.${i}.name`}
                label={texts.name}
                autoCapitalize="sentences"
                testID={`lens-name-${i}`}
              />
              <FormArea control={control} name={`lenses.${i}.area`} areas={areas} />
            </>
          )}
        </Card>
      ))}
      {isOne && device && (
        <Card>
          <Words bold heading={2}>
            {texts.whatItCanDo}
          </Words>
          <Words tone="second">{[`${device.maker} ${device.model}`, ...device.capabilities].join(', ')}</Words>
          {device.relays.length > 0 &&
            (['lamp', 'siren'] as const).map((what) => (
              <Row key={what}>
                <Words style={{ width: 88 }}>{what === 'lamp' ? texts.itsLampIs : texts.itsSirenIs}</Words>
                <FormChoice
                  control={control}
                  name={`relays.${what}`}
                  label={what === 'lamp' ? texts.itsLampIs : texts.itsSirenIs}
                  choices={[
                    { value: '', words: texts.none, testID: `${what}-none` },
                    ...device.relays.map((token) => ({ value: token, words: token, testID: `${what}-${token}` })),
                  ]}
                />
              </Row>
            ))}
          <Check words={texts.hasAnInfraredLight} checked={hasInfrared} press={() => setValue('hasInfrared', !hasInfrared, change)} />
        </Card>
      )}
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      {!formState.isValid && kept > 0 && <Words tone="second">{texts.enterAName}</Words>}
      <Button
        words={kept > 1 ? texts.saveCameras(kept) : texts.saveCamera}
        main
        disabled={kept === 0 || !formState.isValid || state.isLoading}
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
  lens: Lens;
  keep: (isKept: boolean) => void;
  show: (orientation: Orientation) => void;
};

function LensPicture({ attempt, channel, index, isOne, lens: { isKept, orientation }, keep, show }: LensProps) {
  if (!channel.hasPicture) return <Words tone="second">{texts.hasNoPicture(channel.name, channel.problem ?? '')}</Words>;
  return (
    <>
      {!isOne && (
        <Check
          words={channel.name}
          detail={`${channel.width} × ${channel.height}`}
          checked={isKept}
          press={() => keep(!isKept)}
          testID={`lens-${index}`}
        />
      )}
      <View style={isOne ? undefined : { maxWidth: 280 }}>
        <TurnedPicture
          source={`/api/connection-attempts/${attempt}/channels/${index}/picture.jpg`}
          words={texts.pictureFrom(channel.name)}
          orientation={orientation}
          width={channel.width}
          height={channel.height}
        />
      </View>
      {isKept && (
        <Row>
          <Button glyph="turn" words={texts.turn} onPress={() => show(nextTurn(orientation))} testID={`turn-${index}`} />
          <Button
            glyph="mirror"
            words={texts.mirror}
            onPress={() => show({ ...orientation, mirrored: !orientation.mirrored })}
            testID={`mirror-${index}`}
          />
          <Words size="small" tone="second">
            {shownWords(orientation)}
          </Words>
        </Row>
      )}
    </>
  );
}
