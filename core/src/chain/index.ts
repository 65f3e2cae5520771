// The chain from a camera's detection to a rule: what makes a rule silent without anyone noticing. Each finding has a sentence and a
// hint, and what to change where we can mend it.

import { numberText } from '../words';
import { densityIn, fieldDegrees, groundModel, pixelsHigh, type Aim, type GroundModel } from '../aim';
import { classOf, type ClassName } from '../boxes';
import { weekOf } from '../schedules';
import { warningsOf } from '../modes';
import { zonesOf } from '../rules/where';
import { framesWords } from '../sieve';
import { compileSchedule, minConfidence, type AimFile, type Camera, type Rule, type SiteFile, type Zone } from '../site';
import { polygonArea, type Polygon } from '../zones';

export type FindingKind =
  | 'reports-nothing'
  | 'class-not-reported'
  | 'confidence-never-reached'
  | 'confidence-below-camera'
  | 'never-on'
  | 'too-far'
  | 'too-far-in-part'
  | 'size-never-reached'
  | 'zone-too-small'
  | 'too-dark'
  | 'too-many-pictures';

export type Finding = {
  readonly kind: FindingKind;
  readonly rule: string;
  /** Undefined where it holds for the rule on any camera. */
  readonly camera: string | undefined;
  readonly words: string;
  readonly hint: string;
  /** Where in the site file a value would fix it. */
  readonly fix?: { readonly path: readonly (string | number)[]; readonly value: number };
};

/** How tall things are, metres; common practice for planning. */
const tall: Readonly<Partial<Record<ClassName, number>>> = { person: 1.7, vehicle: 1.5, pet: 0.4 };
/** Fewer pixels than this and the built-in detector finds next to nothing, as measured with it. */
export const minPixels = 24;
/** Width of an upright person against their height. */
const slender = 0.4;
const longSeconds = 30;

/** Findings by which a rule cannot fire at all on a camera; others make it fire less. */
export const never: readonly FindingKind[] = [
  'reports-nothing',
  'class-not-reported',
  'confidence-never-reached',
  'never-on',
  'size-never-reached',
];

/** Why a rule can fire on none of its cameras, each in a sentence with what to do; nothing where it can on one. */
export function neverFires(site: SiteFile, rule: Rule): string[] {
  const findings = chainFindings({ ...site, rules: [{ ...rule, on: true }] }).filter((f) => never.includes(f.kind));
  const isStopped = (camera: string) => findings.some((f) => f.camera === undefined || f.camera === camera);
  return rule.cameras.length > 0 && rule.cameras.every(isStopped) ? findings.map((f) => `${f.words}. ${f.hint}`) : [];
}

/** @param site a checked one */
export function chainFindings(site: SiteFile): Finding[] {
  return (site.rules ?? []).flatMap((rule, i) => {
    if (rule.on === false) return [];
    const cameras = site.cameras.filter((c) => rule.cameras.includes(c.id));
    return [
      ...neverOn(site, rule),
      ...cameras.flatMap((c) => [...reported(site, rule, i, c), ...seenWhereAsked(site, rule, c), ...counted(rule, c)]),
    ];
  });
}

function neverOn(site: SiteFile, rule: Rule): Finding[] {
  const warning = warningsOf(site).find((w) => w.kind === 'schedule-never-meets-modes' && w.about === rule.id);
  if (!warning) return [];
  const isEmpty = rule.schedule !== undefined && !weekOf(compileSchedule(site, rule.schedule).plan).includes(1);
  const words = isEmpty ? `${rule.name}: its schedule is never on` : warning.words;
  return [{ kind: 'never-on', rule: rule.id, camera: undefined, words, hint: warning.hint }];
}

function reported(site: SiteFile, rule: Rule, index: number, camera: Camera): Finding[] {
  const { builtInDetection } = camera;
  if (!builtInDetection) return [];
  const about = { rule: rule.id, camera: camera.id };
  const { classes, minScore, maxScore } = builtInDetection;
  if (classes?.length === 0)
    return [
      {
        kind: 'reports-nothing',
        ...about,
        words: `${camera.name} reports nothing`,
        hint: 'Turn on detection in the camera.',
      },
    ];
  const findings: Finding[] = [];
  const missing =
    classes && rule.classes.filter((asked) => !classes.some((c) => c === asked || classOf(c) === asked || c === classOf(asked)));
  if (missing?.length)
    findings.push({
      kind: 'class-not-reported',
      ...about,
      words: `${camera.name} does not report ${missing.join(' or ')}, which ${rule.name} needs`,
      hint: `Turn on ${missing.join(' and ')} in the camera, or remove it from the rule.`,
    });
  const asked = minConfidence(rule, camera);
  const isOfCamera = asked > (rule.confidence ?? 0);
  const whoAsks = isOfCamera ? 'the minimum confidence' : rule.name;
  const path = isOfCamera ? ['cameras', site.cameras.indexOf(camera), 'tuning', 'confidence'] : ['rules', index, 'confidence'];
  if (maxScore !== undefined && asked > maxScore)
    findings.push({
      kind: 'confidence-never-reached',
      ...about,
      words: `${camera.name} never reported a confidence above ${numberText(maxScore, 2)}; ${whoAsks} needs ${numberText(asked, 2)}`,
      hint: `Use ${numberText(maxScore, 2)} or less.`,
      fix: { path, value: maxScore },
    });
  if (minScore !== undefined && asked < minScore)
    findings.push({
      kind: 'confidence-below-camera',
      ...about,
      words: `${camera.name} sends nothing below ${numberText(minScore, 2)}; a minimum of ${numberText(asked, 2)} for ${whoAsks} has no effect`,
      hint: `Use ${numberText(minScore, 2)}, or lower the camera's threshold.`,
      fix: { path, value: minScore },
    });
  return findings;
}

function counted(rule: Rule, camera: Camera): Finding[] {
  const rate = camera.builtInDetection?.framesASecond;
  const frames = rule.behaviour.frames ?? 1;
  if (rate === undefined || frames / rate <= longSeconds) return [];
  return [
    {
      kind: 'too-many-pictures',
      rule: rule.id,
      camera: camera.id,
      words: `${rule.name} waits for ${framesWords(frames, rate)} on ${camera.name}`,
      hint: 'Use fewer frames, or seconds.',
    },
  ];
}

/** By the camera's aim: whether what is asked for can be seen in the zones where it is asked. */
function seenWhereAsked(site: SiteFile, rule: Rule, camera: Camera): Finding[] {
  const about = { rule: rule.id, camera: camera.id };
  const ids = zonesOf(rule.behaviour, camera.id);
  const zones = (camera.zones ?? []).filter((z) => ids.includes(z.id));
  const model = camera.aim && groundModel(camera.aim as AimFile);
  const smallest = Math.min(...rule.classes.map((c) => tall[classOf(c)!] ?? Infinity));
  return zones.flatMap((zone): Finding[] => {
    const findings = [...tooSmall(rule, camera, zone)];
    if (!model || smallest === Infinity) return findings;
    const name = rule.classes.find((c) => tall[classOf(c)!] === smallest)!;
    const { min, max } = heightsIn(model, zone, smallest);
    const wanted = (rule.size?.min ?? 0) * model.aim.pictureHeight;
    const [small, large] = [Math.round(min), Math.round(max)];
    if (max < minPixels)
      findings.push({
        kind: 'too-far',
        ...about,
        words: `A ${name} in ${zone.name} is at most ${large} pixels high on ${camera.name}, too small to detect: ${minPixels} are needed`,
        hint: farHint(model.aim),
      });
    else if (min < minPixels)
      findings.push({
        kind: 'too-far-in-part',
        ...about,
        words: `A ${name} is ${small} to ${large} pixels high in ${zone.name}; at the far end, below ${minPixels}, it will not be detected`,
        hint: `Draw ${zone.name} closer, or use a longer lens or a larger picture.`,
      });
    if (wanted > max && max >= minPixels)
      findings.push({
        kind: 'size-never-reached',
        ...about,
        words: `${rule.name} needs ${Math.round(wanted)} pixels of height; a ${name} in ${zone.name} has at most ${large}`,
        hint: `Use at most ${Math.floor((max / model.aim.pictureHeight) * 100)} % of the picture's height.`,
      });
    return [...findings, ...tooDark(site, rule, camera, model, zone)];
  });
}

/** Least and greatest height of a thing of so many metres in a zone, pixels; 0 beyond the horizon. */
function heightsIn(model: GroundModel, zone: Zone, metres: number): { min: number; max: number } {
  const heights = (zone.polygon as unknown as Polygon).map((p) => {
    const found = model.at(p);
    return found ? (pixelsHigh(model, found.ground, metres) ?? 0) : 0;
  });
  return { min: Math.min(...heights), max: Math.max(...heights) };
}

const farHint = ({ lens }: Aim) => `Move the camera closer, use a lens narrower than ${Math.round(fieldDegrees(lens))}°, or more pixels.`;

/** A rule that wants a share of a thing inside a zone that is smaller than that. */
function tooSmall(rule: Rule, camera: Camera, zone: Zone): Finding[] {
  if (typeof rule.anchor !== 'object') return [];
  const aspect = camera.aim ? camera.aim.pictureHeight / camera.aim.pictureWidth : 9 / 16;
  const height = rule.size?.min ?? 0;
  const thing = height * height * slender * aspect;
  const room = polygonArea(zone.polygon as unknown as Polygon);
  if (thing === 0 || room >= rule.anchor.overlap * thing) return [];
  const percent = Math.round(rule.anchor.overlap * 100);
  return [
    {
      kind: 'zone-too-small',
      rule: rule.id,
      camera: camera.id,
      words: `${zone.name} is too small to hold ${percent} % of an object for ${rule.name}`,
      hint: `Draw ${zone.name} larger, or use the feet as reference point.`,
    },
  ];
}

/** A zone that begins where the light ends, for a rule whose hours are on at midnight. */
function tooDark(site: SiteFile, rule: Rule, camera: Camera, model: GroundModel, zone: Zone): Finding[] {
  const reaches = Math.max(model.aim.infraredMetres ?? 0, model.aim.lampMetres ?? 0);
  if (reaches === 0) return [];
  const nights =
    rule.schedule === undefined ? true : weekOf(compileSchedule(site, rule.schedule).plan).some((on, m) => on === 1 && m % 1440 < 120);
  const near = (zone.polygon as unknown as Polygon).map((p) => {
    const found = model.at(p);
    return found ? Math.hypot(...found.ground) : Infinity;
  });
  const nearest = Math.min(...near);
  if (!nights || nearest <= reaches || densityIn(model, zone.polygon as unknown as Polygon).max === 0) return [];
  return [
    {
      kind: 'too-dark',
      rule: rule.id,
      camera: camera.id,
      words: `At night the light of ${camera.name} ends at ${Math.round(reaches)} m; ${zone.name} starts at ${Math.round(nearest)} m`,
      hint: 'Add a lamp there, or draw the zone closer.',
    },
  ];
}
