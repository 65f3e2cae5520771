// A site made ready for the sieve: every id replaced by what it names, every part of a picture numbered.

import type { ClassName, ColourName } from '../boxes';
import type { Plan } from '../schedules';
import type { GroundModel } from '../aim';
import type { AnchorRule, Polygon } from '../zones';
import type { Rule, SiteFile } from './file';

export type WatchedZone = { readonly id: string; readonly name: string; readonly polygon: Polygon };
export type WatchedLine = { readonly id: string; readonly name: string; readonly points: Polygon };

type Dwell = { readonly frames: number; readonly seconds: number; readonly graceMs: number };

/** What a rule asks a thing to do. A `spot` is the number of a zone, taken with the rule's anchor, on its camera; -1 for the whole picture. */
export type Behaviour =
  | (Dwell & {
      readonly kind: 'lasts';
      readonly zone: WatchedZone | undefined;
      readonly spot: number;
      /** Within so many metres of the camera, where asked. */
      readonly metres: number | undefined;
      readonly returning: Returning | undefined;
    })
  | (Dwell & {
      readonly kind: 'goes';
      readonly from: WatchedZone;
      readonly to: WatchedZone;
      readonly fromSpot: number;
      readonly toSpot: number;
      readonly bothDirections: boolean;
    })
  | { readonly kind: 'crosses'; readonly line: WatchedLine; readonly direction: 'forward' | 'back' | 'both'; readonly margin: number }
  /** Over or under so many at once. `isEmpty` where the rule asks for no one. */
  | (Dwell & {
      readonly kind: 'number';
      readonly zone: WatchedZone | undefined;
      readonly spot: number;
      readonly test: 'over' | 'under';
      readonly than: number;
      readonly isEmpty: boolean;
    })
  | { readonly kind: 'reports'; readonly states: ReadonlySet<string> | undefined };

/** Known, or not, by a plate or by a field of the description. */
export type Returning = {
  readonly by: string;
  readonly known: boolean;
  readonly who: readonly { readonly name: string; readonly pattern: string }[];
};

export type LooksAsked = {
  readonly types: ReadonlySet<string> | undefined;
  readonly colours: ReadonlySet<ColourName> | undefined;
  readonly upper: ReadonlySet<ColourName> | undefined;
  readonly lower: ReadonlySet<ColourName> | undefined;
  readonly plate: string | undefined;
  readonly fields: readonly (readonly [name: string, pattern: string])[];
};

/** The plan of a rule's hours. A plan only changes on the minute and is asked at every picture: the last answer is kept here. */
export type RuleSchedule = {
  readonly name: string;
  readonly plan: Plan;
  readonly outsideName: string | undefined;
  minute: number;
  isOn: boolean;
};

/** One rule on one camera, or on one sensor. */
export type CompiledRule = {
  readonly id: string;
  /** Of the rule and its camera or sensor together. */
  readonly key: string;
  readonly name: string;
  readonly rule: Rule;
  readonly on: boolean;
  readonly watchesCamera: boolean;
  /** Whether it asks for a number in a zone of this camera, and is on. */
  readonly isCounted: boolean;
  readonly classes: ReadonlySet<string>;
  readonly confidence: number;
  readonly size: { readonly min: number; readonly max: number; readonly minMetres: number; readonly maxMetres: number };
  readonly asksMetres: boolean;
  readonly anchor: AnchorRule;
  readonly behaviour: Behaviour;
  /** The first rule of the camera, by its number, that asks for the same thing done: what a track does is followed once for both. */
  readonly behaviourAs: number;
  readonly require: LooksAsked | undefined;
  readonly exclude: LooksAsked | undefined;
  readonly modes: ReadonlySet<string> | undefined;
  readonly schedule: RuleSchedule | undefined;
  readonly presence: 'someone' | 'no one' | undefined;
  readonly restMs: number;
  /** The ignored parts that count for it, each with the number of its spot. */
  readonly ignored: readonly IgnoredSpot[];
};

export type IgnoredPart = {
  readonly name: string;
  readonly purpose: 'ignore' | 'privacy';
  readonly classes: ReadonlySet<ClassName> | undefined;
  readonly polygon: Polygon;
};
export type IgnoredSpot = { readonly part: IgnoredPart; readonly spot: number };

/** A polygon taken with an anchor: asked once for each box, whatever the number of rules that look at it. */
export type Spot = { readonly polygon: Polygon; readonly anchor: AnchorRule };

export type CompiledCamera = {
  readonly id: string;
  readonly name: string;
  readonly area: string;
  readonly ground: GroundModel | undefined;
  readonly spots: readonly Spot[];
  /** Every rule that has cameras, in the order of the file. */
  readonly rules: readonly CompiledRule[];
  /** Which of them ask for a number in a zone. */
  readonly numbers: readonly number[];
};

export type CompiledSensor = { readonly id: string; readonly name: string; readonly area: string; readonly rules: readonly CompiledRule[] };

export type CompiledSite = {
  readonly file: SiteFile;
  readonly zone: string;
  readonly areas: readonly string[];
  readonly threadMs: ReadonlyMap<string, number>;
  readonly modeNames: ReadonlyMap<string, string>;
  readonly firstMode: string;
  readonly cameras: ReadonlyMap<string, CompiledCamera>;
  readonly sensors: ReadonlyMap<string, CompiledSensor>;
};
