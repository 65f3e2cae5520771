// What several routes answer with: objects of the domain in JSON.

import { classes, typeNames } from '@nibber/core/boxes';
import { channelNames } from '@nibber/core/channels';
import { gateNames } from '@nibber/core/sieve';
import { aimSchema, cameraSchema, planSchema, roles, ruleSchema, siteSchema, tuningSchema } from '@nibber/core/site';
import { severities } from '../base/station';
import { count, list, maybeNumber, maybeText, named, number, object, oneOf, text, yesNo } from './schema';

/** Milliseconds since 1970, by the site's clock unless said otherwise. */
/** Within what a date can be (ECMAScript, 21.4.1.1). */
export const instant = { type: 'number', minimum: -8.64e15, maximum: 8.64e15 } as const;
export const version = count;
export const role = named('Role', { enum: roles } as const);
export const stationProblem = named('StationProblem', object({ severity: oneOf(...severities), text }));
export const channelName = named('ChannelName', { enum: channelNames } as const);
export const className = named('ClassName', { enum: classes } as const);
export const typeName = named('TypeName', { enum: typeNames } as const);
export const gate = named('Gate', { enum: gateNames } as const);
export const box = named('Box', {
  type: 'array',
  items: number,
  minItems: 4,
  maxItems: 4,
  description: 'x, y, width, height; 0..1 of the picture',
} as const);

export const step = named('Step', object({ gate, passes: yesNo, found: text, wanted: text, count }, ['count']));
export const mark = oneOf('useful', 'noise', null);
export const alertState = oneOf('waiting', 'sent', 'undeliverable', 'suppressed', 'rerouted', 'combined');

const { zones, lines, orientation, allowAiService, capabilities, relays, builtInDetection } = cameraSchema.properties;
export const camera = {
  name: cameraSchema.properties.name,
  area: cameraSchema.properties.area,
  zones: named('Zones', zones),
  lines: named('Lines', lines),
  orientation: named('Orientation', orientation),
  allowAiService,
  capabilities: named('Capabilities', capabilities),
  relays: named('Relays', relays),
  builtInDetection: named('BuiltInDetection', builtInDetection),
  aim: named('Aim', aimSchema),
  tuning: named('Tuning', tuningSchema),
};
export const rule = named('Rule', ruleSchema);
export const plan = named('Plan', planSchema);
const { site, areas, modes, people, known, modeSchedules } = siteSchema.properties;
/** What is asked of every thing of a class. */
export const classPrompts = named('ClassPrompts', siteSchema.properties.ai.properties.prompts);
export const siteParts = {
  site: named('SiteOfFile', site),
  areas: named('Areas', areas),
  modes: named('Modes', modes),
  people: named('People', people),
  known: named('Known', known),
  modeSchedules: named('ModeSchedules', modeSchedules),
};

export const areaMode = named('AreaMode', object({ area: text, mode: text, since: instant, by: text }));

/** `unseenMs`: for how long it has not been seen; its box is where it should be. */
export const seenTrack = named(
  'SeenTrack',
  object({ key: text, class: className, type: typeName, score: number, box, unseenMs: number }, ['type']),
);

export const health = named(
  'CameraHealth',
  object(
    {
      state: oneOf('connecting', 'running', 'silent'),
      since: number,
      problem: text,
      picturesASecond: number,
      framesReceived: count,
      dropped: count,
      framesAnalysed: count,
      analysisMs: number,
      input: object({ width: count, height: count }),
    },
    ['problem', 'input'],
  ),
);

export const walkResult = named('WalkResult', {
  anyOf: [
    object({ state: oneOf('waiting'), walked: yesNo, why: maybeText }),
    object({ state: oneOf('answered'), at: instant, event: maybeText, picture: maybeText }, ['event', 'picture']),
  ],
} as const);
export const light = named(
  'Light',
  object({ gate, state: oneOf('passed', 'refused', 'ahead', 'lifted'), found: text, wanted: text }, ['found', 'wanted']),
);
const walkedBy = { name: text, cameras: list(text) };
const ruleItem = { kind: oneOf('rule'), rule: text, expect: oneOf('fires', 'quiet') };
const zoneItem = { kind: oneOf('zone'), camera: text, zone: text };
export const walkItem = named('WalkItem', { anyOf: [object(ruleItem), object(zoneItem)] } as const);
const going = { ...walkedBy, settingsHash: text, result: walkResult, lights: list(light), there: count, steps: count };
export const walkNow = named(
  'WalkNow',
  object({
    id: text,
    startedAt: instant,
    by: text,
    items: list({ anyOf: [object({ ...ruleItem, ...going }), object({ ...zoneItem, ...going })] } as const),
  }),
);
const notified = object({ person: text, state: alertState, why: maybeText, sentAt: maybeNumber });
const kept = { ...walkedBy, verdict: oneOf('proved', 'failed', 'open'), isStillValid: yesNo, result: walkResult, notified: list(notified) };
export const storedWalkTest = named(
  'StoredWalkTest',
  object({
    id: text,
    startedAt: instant,
    endedAt: maybeNumber,
    by: text,
    items: list({ anyOf: [object({ ...ruleItem, ...kept }), object({ ...zoneItem, ...kept })] } as const),
  }),
);

export const onlyId = object({ id: text });
