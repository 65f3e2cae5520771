// What can be chosen in a part of a rule, and the rule that comes of each choice.

import { classes, typesOf } from '@nibber/core/boxes';
import { behaviourOf } from '@nibber/core/rules';
import type { Rule } from '@nibber/core/site';
import { duration } from '../../ui/times';
import type { CameraAnswer } from '../../state/api/types';
import type { PartProps } from './parts/props';
import type { PartName } from './wording';
import { texts } from './words';

/** `id` names it within its part. */
export type Choice = {
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

export function choicesOf({ part, rule, site, cameras }: Pick<PartProps, 'rule' | 'site' | 'cameras'> & { part: PartName }): Choice[] {
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
