// What one part of a rule's sentence may be, on a sheet of its own.

import { classes, typesOf } from '@nibber/core/boxes';
import { behaviourOf } from '@nibber/core/rules';
import type { Rule } from '@nibber/core/site';
import { View } from 'react-native';
import { OneOf, SomeOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { duration } from '../../ui/times';
import type { CameraAnswer } from '../../state/api/types';
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
import type { PartName } from './wording';
import { texts } from './words';

type Props = PartProps & { part: PartName; close: () => void; isNew: boolean };
/** `id` names it within its part. */
type Choice = {
  readonly id: string;
  readonly words: string;
  readonly detail?: string;
  readonly chosen: boolean;
  readonly next: Rule | undefined;
};

const classNames = [
  ...classes.filter((c) => c === 'person' || c === 'vehicle' || c === 'pet'),
  ...typesOf.vehicle,
  ...typesOf.pet.filter((t) => t !== 'other-animal'),
  'parcel',
] as const;
const overlaps = [0.25, 0.5, 0.75] as const;
/** No zone and no schedule has such an id. */
const [wholePicture, anyTimeId] = ['*picture', '*time'];
const rests = [0, 30, 60, 120, 300, 600, 1200, 1800, 3600] as const;

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

const behaviours: readonly (readonly [Rule['behaviour']['kind'], string, string])[] = [
  ['appears', texts.itAppears, texts.inAZoneOrAnywhere],
  ['stays', texts.itStays, texts.forSomeSecondsOrSome],
  ['goes', texts.itGoesFromOneZone, texts.orBetweenThem],
  ['crosses', texts.itCrossesALine, texts.inOneDirectionOrBoth],
  ['count', texts.numberOfObjects, texts.moreThanOrFewerThan],
  ['empty', texts.theZoneIsEmpty, texts.forSomeTimeWhileSomeone],
  ['approaches', texts.itApproaches, texts.withinSomeMetresNeedsThe],
  ['returns', texts.itIsKnownOrUnknown, texts.byNumberPlateOrDescription],
];

/** With the word put in or taken out; undefined where nothing would be left. */
const toggled = <T extends string>(list: readonly T[], word: T): T[] | undefined => {
  const next = list.includes(word) ? list.filter((w) => w !== word) : [...list, word];
  return next.length ? next : undefined;
};

/** What every camera of the rule has, known by its id. */
function shared<T extends { readonly id: string }>(
  rule: Rule,
  cameras: readonly CameraAnswer[],
  of: (camera: CameraAnswer) => readonly T[],
): readonly T[] {
  const [first, ...others] = cameras.filter((c) => rule.cameras.includes(c.id));
  return first ? of(first).filter((e) => others.every((c) => of(c).some((o) => o.id === e.id))) : [];
}

/** Without a key that it need not have. */
function without<K extends keyof Rule>(rule: Rule, key: K): Rule {
  const { [key]: _gone, ...rest } = rule;
  return rest as Rule;
}

function choicesOf({ part, rule, site, cameras }: Props): Choice[] {
  const zones = shared(rule, cameras, (c) => c.zones.filter((z) => z.purpose === 'watch'));
  switch (part) {
    case 'cameras':
      return cameras.map((c) => {
        const next = toggled(rule.cameras, c.id);
        return { id: c.id, words: c.name, chosen: rule.cameras.includes(c.id), next: next && { ...rule, cameras: next } };
      });
    case 'behaviour':
      return behaviours.map(([kind, words, detail]) => ({
        id: kind,
        words,
        detail,
        chosen: rule.behaviour.kind === kind,
        next: { ...rule, behaviour: behaviourOf(kind, rule.behaviour) },
      }));
    case 'line':
      return shared(rule, cameras, (c) => c.lines ?? []).flatMap((l) =>
        (['both', 'forward', 'back'] as const).map((direction) => ({
          id: `${l.id}-${direction}`,
          words: direction === 'both' ? texts.inBothDirections(l.name) : `${l.name}, ${direction}`,
          ...(direction === 'forward' ? { detail: texts.towardsTheSideWithThe } : {}),
          chosen: rule.behaviour.line === l.id && (rule.behaviour.direction ?? 'both') === direction,
          next: { ...rule, behaviour: { ...rule.behaviour, line: l.id, direction } },
        })),
      );
    case 'anchor':
      return [
        {
          id: 'feet',
          words: texts.itsFeet,
          detail: texts.theMiddleOfTheLower,
          chosen: rule.anchor === undefined || rule.anchor === 'feet',
          next: without(rule, 'anchor'),
        },
        { id: 'centre', words: texts.itsMiddle, chosen: rule.anchor === 'centre', next: { ...rule, anchor: 'centre' } },
        ...overlaps.map((overlap) => ({
          id: String(overlap),
          words: texts.ofIt(overlap * 100),
          detail: texts.shareOfItsBoxInside,
          chosen: typeof rule.anchor === 'object' && rule.anchor.overlap === overlap,
          next: { ...rule, anchor: { overlap } },
        })),
      ];
    case 'presence':
      return [
        { id: 'any', words: texts.any, chosen: rule.presence === undefined, next: without(rule, 'presence') },
        { id: 'someone', words: texts.someoneFromTheSite, chosen: rule.presence === 'someone', next: { ...rule, presence: 'someone' } },
        { id: 'no one', words: texts.noOneFromTheSite, chosen: rule.presence === 'no one', next: { ...rule, presence: 'no one' } },
      ];
    case 'urgent':
      return [
        { id: 'no', words: texts.no, detail: texts.respectsQuietHoursAndSnooze, chosen: !rule.urgent, next: without(rule, 'urgent') },
        {
          id: 'yes',
          words: texts.yes,
          detail: texts.ignoresQuietHoursAndSnooze,
          chosen: rule.urgent === true,
          next: { ...rule, urgent: true },
        },
      ];
    case 'classes':
      return classNames.map((name) => {
        const next = toggled(rule.classes, name);
        return { id: name, words: name, chosen: rule.classes.includes(name), next: next && { ...rule, classes: next } };
      });
    case 'from':
    case 'to':
    case 'zone': {
      const { zone: _zone, ...anywhere } = rule.behaviour;
      const whole =
        part === 'zone'
          ? [
              {
                id: wholePicture,
                words: texts.theWholePicture,
                chosen: rule.behaviour.zone === undefined,
                next: { ...rule, behaviour: anywhere },
              },
            ]
          : [];
      const otherEnd = part === 'from' ? rule.behaviour.to : part === 'to' ? rule.behaviour.from : undefined;
      const named = zones.map((z) => ({
        id: z.id,
        words: z.name,
        chosen: rule.behaviour[part] === z.id,
        next: {
          ...rule,
          behaviour:
            z.id === otherEnd
              ? { ...rule.behaviour, from: rule.behaviour.to, to: rule.behaviour.from }
              : { ...rule.behaviour, [part]: z.id },
        },
      }));
      return [...named, ...whole];
    }
    case 'modes': {
      const own = rule.modes ?? site.modes.map((m) => m.id);
      return site.modes.map((m) => {
        const next = toggled(own, m.id);
        return {
          id: m.id,
          words: m.name,
          detail: m.armed ? 'armed' : texts.notArmed,
          chosen: own.includes(m.id),
          next: next && { ...rule, modes: next },
        };
      });
    }
    case 'schedule': {
      const { schedule: _, ...anyTime } = rule;
      return [
        { id: anyTimeId, words: texts.atAnyTime, chosen: rule.schedule === undefined, next: anyTime },
        ...site.schedules.map((h) => ({
          id: h.id,
          words: h.name,
          detail: h.on ? texts.onNow : texts.notOnNow,
          chosen: rule.schedule === h.id,
          next: { ...rule, schedule: h.id },
        })),
      ];
    }
    case 'cooldown':
      return rests.map((s) => ({
        id: String(s),
        words: s ? texts.atMostEvery(duration(s)) : texts.everyTime,
        chosen: (rule.cooldownSeconds ?? 0) === s,
        next: { ...rule, cooldownSeconds: s },
      }));
    default:
      return [];
  }
}
