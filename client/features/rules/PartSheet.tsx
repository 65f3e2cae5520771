// What one part of a rule's sentence may be, on a sheet of its own.

import { View } from 'react-native';
import { OneOf, SomeOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import type { PartProps } from './parts/props';
import { LengthPart, MetresPart, NumberPart, SizePart } from './parts/Amounts';
import { LooksPart } from './parts/Appearance';
import { MessagePart } from './parts/Message';
import { QuestionPart } from './parts/QuestionPart';
import { SurenessPart } from './parts/Confidence';
import { NotifyPart } from './parts/Notify';
import { ReturningPart } from './parts/Returning';
import { WhereShown } from './parts/WhereShown';
import { ZonesPart } from './parts/Zones';
import { RehearsalSummary, RehearsalPictures } from './Rehearsal';
import { choicesOf } from './choices';
import type { PartName } from './wording';
import { texts } from './words';

type Props = PartProps & { part: PartName; close: () => void; isNew: boolean };
const titles: Readonly<Record<PartName, string>> = {
  classes: texts.whatShouldItDetect,
  cameras: texts.whichCameras,
  behaviour: texts.whatDoesItDo,
  confidence: texts.minimumConfidence,
  from: texts.fromWhere,
  to: texts.toWhere,
  zone: texts.where,
  line: texts.whichLineAndInWhich,
  for: texts.forHowLong,
  number: texts.howMany,
  metres: texts.howNear,
  returning: texts.recognisedBy,
  size: texts.howLarge,
  anchor: texts.whichPointMustBeIn,
  looks: texts.requiredAppearance,
  except: texts.whatIsExcluded,
  modes: texts.inWhichModes,
  schedule: texts.onWhichSchedule,
  presence: texts.whoMustBeOnSite,
  notify: texts.whoIsNotified,
  message: texts.whatIsIncluded,
  question: texts.checkBeforeAlerting,
  cooldown: texts.minimumTimeBetweenAlerts,
  urgent: texts.isItUrgent,
};

/** Parts that are more than one choice. */
const bodies: { readonly [P in PartName]?: (props: PartProps) => React.ReactNode } = {
  confidence: SurenessPart,
  for: LengthPart,
  number: NumberPart,
  metres: MetresPart,
  size: SizePart,
  looks: (props) => <LooksPart {...props} which="require" />,
  except: (props) => <LooksPart {...props} which="exclude" />,
  returning: ReturningPart,
  notify: ({ rule, site, change }) => (
    <NotifyPart notify={rule.notify ?? []} site={site} change={(notify) => change({ ...rule, notify })} />
  ),
  message: MessagePart,
  question: QuestionPart,
};

/** Parts that do not affect when the rule fires. */
const unjudged: readonly PartName[] = ['message', 'question', 'notify', 'urgent'];
const several: readonly PartName[] = ['classes', 'modes', 'cameras'];
const ofThePicture: readonly PartName[] = ['zone', 'from', 'to', 'line'];

export function PartSheet(props: Props) {
  const { part, rule, site, cameras, change, close, week, isNew } = props;
  const Body = bodies[part];
  const own = { rule, site, cameras, change, week };
  const recentFrames = { week, isNew, zone: site.settings.timezone };
  const footer = (
    <View style={{ gap: 8 }}>
      {!unjudged.includes(part) && <RehearsalSummary week={week} isNew={isNew} />}
      <Footer words={texts.done} save={close} canSave testID="part-done" />
    </View>
  );
  return (
    <Sheet title={titles[part]} open close={close} footer={footer}>
      {ofThePicture.includes(part) && <WhereShown {...own} />}
      {Body ? <Body {...own} /> : part === 'zone' && rule.cameras.length > 1 ? <ZonesPart {...own} /> : <Choices {...props} />}
      {!unjudged.includes(part) && <RehearsalPictures {...recentFrames} />}
    </Sheet>
  );
}

function Choices(props: Props) {
  const { part, change, close } = props;
  const all = choicesOf(props);
  const choices = all.map(({ id, words, detail }) => ({ value: id, words, detail, testID: `choice-${id}` }));
  const chosen = all.filter((c) => c.chosen).map((c) => c.id);
  const take = (id: string) => {
    const next = all.find((c) => c.id === id)?.next;
    if (next) change(next);
  };
  if (choices.length === 0) return <Words tone="second">{nothing[part] ?? texts.nothingToChooseFrom}</Words>;
  return several.includes(part) ? (
    <>
      <SomeOf label={titles[part]} choices={choices} values={chosen} toggle={take} rows />
      <Words size="small" tone="second">
        {texts.chooseAtLeastOne}
      </Words>
    </>
  ) : (
    <OneOf label={titles[part]} choices={choices} value={chosen[0]} choose={take} picked={close} rows />
  );
}

const nothing: { readonly [P in PartName]?: string } = {
  from: texts.itsCameraHasNoWatched,
  to: texts.itsCameraHasNoWatched,
  line: texts.itsCameraHasNoLines,
};
