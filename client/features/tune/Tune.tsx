// How finely a camera's pictures are looked at: the live picture with what the machine sees, and four settings whose effect on the last
// minutes is seen while they are dragged.

import { numberText } from '@nibber/core/words';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { anchorPoint } from '@nibber/core/boxes';
import {
  effectOf,
  judgeRecentFrames,
  tuningOf,
  unpackCells,
  defaultTuning,
  type RecentDetection,
  type RecentDetections,
  type Tuning,
} from '@nibber/core/tuning';
import { contains, type Polygon } from '@nibber/core/zones';
import { MovedCells, MovedParts } from '../../picture/cells';
import { CameraPicture } from '../../picture/CameraPicture';
import { BoxMark, drawnZone, ZoneShape } from '../../picture/drawings';
import { Picture } from '../../picture/Picture';
import { Columns } from '../../ui/Columns';
import { Amount } from '../../ui/Amount';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Footer } from '../../ui/Footer';
import { Unsaved } from '../../ui/Unsaved';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import { useAppDispatch, useAppSelector } from '../../state/store';
import type { CameraAnswer } from '../../state/api/types';
import { useSetSettingsMutation } from '../../state/api/connect';
import { Strip } from './Strip';
import { tried } from '../../state/tuning';
import { useRecentFrames, type NumberedPicture } from './useRecentFrames';
import { useJudgedFrames } from './useJudgedFrames';
import { texts, effectWords, sliderNames, sliderWords, thingWords, valueWords } from './words';

const nothing: never[] = [];
/** What was found this long before a picture still stands where it was. */
const sightMs = 2000;

export function Tune({ camera, done }: { camera: CameraAnswer; done: () => void }) {
  const dispatch = useAppDispatch();
  const saved = useMemo(() => tuningOf(camera.tuning ?? undefined), [camera.tuning]);
  const [opened] = useState(camera);
  const draft = useAppSelector((s) => s.tuningDraft.draft);
  const tuning = draft?.camera === camera.id ? draft.tuning : saved;
  const set = (next: Tuning) => dispatch(tried({ camera: camera.id, tuning: next }));
  const { recentFrames, isLost } = useRecentFrames(camera.id);
  const pictures = recentFrames?.pictures ?? nothing;
  const sights = recentFrames?.sights ?? nothing;
  const [chosen, setChosen] = useState<number>();
  const [isLeaving, setLeaving] = useState(false);
  const [save, saving] = useSetSettingsMutation();
  const isChanged = JSON.stringify(tuning) !== JSON.stringify(saved);
  const would = useJudgedFrames(pictures, tuning);
  // What the live settings did is only asked where others are tried.
  const did = useJudgedFrames(isChanged ? pictures : nothing, saved);
  const [wouldAll, didAll] = useMemo(() => [[...would.values()], [...did.values()]], [would, did]);
  const effect = useMemo(() => effectOf(wouldAll, sights, tuning), [wouldAll, sights, tuning]);
  const effectNow = useMemo(() => (isChanged ? effectOf(didAll, sights, saved) : effect), [isChanged, didAll, sights, saved, effect]);
  const shownEffect = effectWords(effect, effectNow);
  const isStreamed = camera.kind === 'streamed';
  const leave = () => (dispatch(tried(null)), done());
  const keep = async () => {
    if (!('error' in (await save({ of: opened, settings: { tuning } })))) leave();
  };
  const until = pictures.at(-1)?.at ?? 0;
  const picture = chosen === undefined ? pictures.at(-1) : nearest(pictures, chosen);
  return (
    <Columns
      main={
        <View style={{ gap: 8 }}>
          <Seen camera={camera} picture={picture} isNow={chosen === undefined} sights={sights} tuning={tuning} />
          {isStreamed && (
            <>
              <Strip frames={wouldAll} things={effect.things} until={until} chosen={chosen} choose={setChosen} />
              <Row style={{ justifyContent: 'space-between' }}>
                <Words size="small" tone="second">
                  {chosen === undefined ? texts.theLastTwoMinutesTap : texts.sAgo(Math.round((until - chosen) / 1000))}
                </Words>
                {chosen !== undefined && <Button words={texts.now} onPress={() => setChosen(undefined)} testID="recent-now" />}
              </Row>
            </>
          )}
          {isLost && <Attention words={texts.noConnectionToTheServer} />}
          <View testID="effect" role="status">
            {isStreamed && (
              <>
                <Words bold>{shownEffect.headline}</Words>
                {shownEffect.details.map((detail) => (
                  <Words key={detail}>{detail}</Words>
                ))}
              </>
            )}
          </View>
          {effect.things.slice(-6).map((t) => (
            <Words key={t.track} tone={t.lostTo ? 'attentionInk' : 'ink'}>
              {thingWords(t, tuning.confidence)}
            </Words>
          ))}
          {isStreamed && pictures.length > 0 && effect.things.length === 0 && (
            <Words tone="second">{texts.nothingDetectedWalkPastTo}</Words>
          )}
        </View>
      }
      side={
        <View style={{ gap: 12 }}>
          <Card style={{ gap: 16 }}>
            {!isStreamed && <Words tone="second">{texts.detectsMotionItselfSetIts(camera.name)}</Words>}
            {sliderNames
              .filter((name) => isStreamed || name === 'confidence')
              .map((name) => (
                <Amount
                  key={name}
                  {...sliderWords[name]}
                  value={tuning[name]}
                  shown={valueWords(name, tuning[name])}
                  put={(value) => set({ ...tuning, [name]: value })}
                  testID={`tune-${name}`}
                />
              ))}
          </Card>
          {saving.isError && <Attention words={problemWords(saving.error) ?? ''} />}
          {isLeaving && <Unsaved discard={leave} goOn={() => setLeaving(false)} />}
          <Row style={{ justifyContent: 'space-between' }}>
            <Button words={texts.defaults} onPress={() => set(defaultTuning)} testID="tune-usual" />
            <Footer
              save={() => void keep()}
              canSave={!saving.isLoading && (isChanged || camera.tuning === null)}
              cancel={() => (isChanged ? setLeaving(true) : leave())}
              testID="keep-tuning"
              cancelTestID="leave-tuning"
            />
          </Row>
        </View>
      }
    />
  );
}

/** The picture with cells, parts, things and zones on it. */
function Seen({
  camera,
  picture,
  isNow,
  sights,
  tuning,
}: {
  camera: CameraAnswer;
  picture: NumberedPicture | undefined;
  isNow: boolean;
  sights: readonly RecentDetections[];
  tuning: Tuning;
}) {
  const judged = useMemo(() => picture && judgeRecentFrames(picture, tuning), [picture, tuning]);
  const cells = useMemo(() => picture && movedCells(picture, tuning), [picture, tuning]);
  const at = picture?.at ?? sights.at(-1)?.at ?? 0;
  const found = sights.findLast((s) => s.at <= at + 50 && at - s.at < sightMs)?.objects ?? nothing;
  const over = (
    <>
      {camera.zones.map((z) => (
        <ZoneShape key={z.id} zone={drawnZone(z)} named={false} />
      ))}
      {picture && cells && <MovedCells cells={cells} width={picture.width} height={picture.height} />}
      {judged && <MovedParts parts={judged.parts} />}
      {found.map((o) => (
        <BoxMark key={o.track} box={o.box} cls={o.class} words={objectWords(o, camera, tuning)} />
      ))}
    </>
  );
  const words = texts.withDetections(camera.name, found.map((o) => objectWords(o, camera, tuning)).join(', ') || 'nothing');
  return isNow || !picture ? (
    <CameraPicture camera={camera} words={words}>
      {over}
    </CameraPicture>
  ) : (
    <Picture source={`/api/cameras/${camera.id}/recent-frames/${picture.number}/picture.jpg`} words={words}>
      {over}
    </Picture>
  );
}

function objectWords({ class: cls, type, score, box }: RecentDetection, { zones }: CameraAnswer, { confidence }: Tuning): string {
  const feet = anchorPoint(box, 'feet');
  const zone = zones.find((z) => z.purpose === 'watch' && contains(z.polygon as unknown as Polygon, feet));
  return [`${type ?? cls} ${numberText(score, 2)}`, score < confidence ? texts.lowConfidence : zone?.name].filter((w) => w).join(', ');
}

function movedCells(picture: NumberedPicture, { threshold, contrast }: Tuning): Uint8Array {
  const { plain, drawn } = unpackCells(picture.cells, picture.width * picture.height);
  return plain.map((p, i) => (p + (drawn[i]! - p) * contrast > threshold ? 1 : 0));
}

const nearest = (pictures: readonly NumberedPicture[], at: number) => {
  const kept = pictures.filter((p) => p.hasPicture);
  return kept.findLast((p) => p.at <= at) ?? kept[0];
};
