// ONVIF metadata stream (tt:MetadataStream with tt:VideoAnalytics), read and written. Source: ONVIF Analytics Service Specification,
// scene description: coordinates −1..1 with y upwards; tt:Transformation maps a point q to Scale·q + Translate.

import type { Box, ColourName, Looks, TypeName } from '../boxes';
import { colourOfRgb } from '../stills/colours';
import { isoInstant, parseInstant } from '../time';
import type { Frame, SeenObject } from '../tracks';
import { onvifMeaning, onvifName, type Meaning } from './classes';
import { refuse } from './limits';
import { parseNotification, type CameraReport } from './onvif-events';
import { allOf, childOf, childrenOf, numberIn, readXml, xmlText, type Element } from './xml';

export type Metadata = { readonly frames: readonly Frame[]; readonly reports: readonly CameraReport[] };

/**
 * @param camera the id that the frames are given
 * @throws Problem 'bad-input' with line and column
 */
export function readOnvifMetadata(text: string, camera: string): Metadata {
  const root = readXml(text);
  const frames = allOf(root, 'Frame')
    .map((f) => frameOf(f, camera))
    .sort((a, b) => a.at - b.at);
  return { frames, reports: allOf(root, 'NotificationMessage').map(parseNotification) };
}

type Transformation = { readonly scale: readonly [number, number]; readonly translate: readonly [number, number] };
const asItIs: Transformation = { scale: [1, 1], translate: [0, 0] };

function transformationOf(element: Element, outer: Transformation): Transformation {
  const own = childOf(element, 'Transformation');
  if (!own) return outer;
  const [scale, translate] = [childOf(own, 'Scale'), childOf(own, 'Translate')];
  const s = scale ? ([numberIn(scale, 'x', 1), numberIn(scale, 'y', 1)] as const) : ([1, 1] as const);
  const t = translate ? ([numberIn(translate, 'x', 0), numberIn(translate, 'y', 0)] as const) : ([0, 0] as const);
  // The inner one comes first, then the one around it.
  return {
    scale: [s[0] * outer.scale[0], s[1] * outer.scale[1]],
    translate: [t[0] * outer.scale[0] + outer.translate[0], t[1] * outer.scale[1] + outer.translate[1]],
  };
}

function frameOf(element: Element, camera: string): Frame {
  const time = element.attributes.UtcTime;
  const at = time === undefined ? undefined : parseInstant(time);
  if (at === undefined) refuse(element.place, `Frame has UtcTime ${JSON.stringify(time ?? '')}`, 'ISO 8601 with an offset');
  const around = transformationOf(element, asItIs);
  const objects = childrenOf(element, 'Object').flatMap((o) => objectOf(o, around) ?? []);
  return { at, camera, objects };
}

/** Undefined for an object that only says where it was last, without a shape. */
function objectOf(element: Element, around: Transformation): SeenObject | undefined {
  const appearance = childOf(element, 'Appearance');
  const box = childOf(appearance, 'Shape', 'BoundingBox');
  if (!appearance || !box) return undefined;
  const { meaning, score } = classOfAppearance(appearance);
  const looks = looksOf(appearance);
  const id = element.attributes.ObjectId;
  return {
    class: meaning.class,
    ...(meaning.type ? { type: meaning.type } : {}),
    score,
    box: boxOf(box, transformationOf(appearance, around)),
    ...(id === undefined ? {} : { track: id }),
    ...(Object.keys(looks).length ? { looks } : {}),
  };
}

function boxOf(element: Element, { scale, translate }: Transformation): Box {
  const x = (attribute: string) => (numberIn(element, attribute) * scale[0] + translate[0] + 1) / 2;
  const y = (attribute: string) => (1 - (numberIn(element, attribute) * scale[1] + translate[1])) / 2;
  const [x0, x1] = [x('left'), x('right')].sort((a, b) => a - b) as [number, number];
  const [y0, y1] = [y('top'), y('bottom')].sort((a, b) => a - b) as [number, number];
  if (x0 < -2 || y0 < -2 || x1 > 3 || y1 > 3)
    refuse(element.place, 'BoundingBox lies far off the picture', '-1 to 1 after the Transformation');
  return [x0, y0, x1 - x0, y1 - y0];
}

function likelihood(element: Element, text: string | undefined): number {
  if (text === undefined) return 1;
  const value = Number(text);
  if (!(value >= 0 && value <= 1)) refuse(element.place, `has a likelihood of ${JSON.stringify(text)}`, '0 to 1');
  return value;
}

/** The likeliest of the candidates, in either of the two forms in which they are given. */
function classOfAppearance(appearance: Element): { meaning: Meaning; score: number } {
  const cls = childOf(appearance, 'Class');
  const candidates = [
    ...(cls ? childrenOf(cls, 'Type') : []).map((t) => ({ name: t.text, score: likelihood(t, t.attributes.Likelihood) })),
    ...(cls ? childrenOf(cls, 'ClassCandidate') : []).map((c) => ({
      name: childOf(c, 'Type')?.text ?? '',
      score: likelihood(c, childOf(c, 'Likelihood')?.text),
    })),
  ].sort((a, b) => b.score - a.score);
  const best = candidates[0];
  const vehicle = childOf(appearance, 'VehicleInfo', 'Type');
  const type = vehicle && onvifMeaning(vehicle.text);
  const meaning = best ? onvifMeaning(best.name) : type?.class === 'vehicle' ? type : impliedBy(appearance);
  const isFiner = meaning.class === 'vehicle' && meaning.type === undefined && type?.type !== undefined;
  return { meaning: isFiner ? type : meaning, score: best?.score ?? (vehicle ? likelihood(vehicle, vehicle.attributes.Likelihood) : 1) };
}

function impliedBy(appearance: Element): Meaning {
  if (childOf(appearance, 'HumanBody')) return { class: 'person' };
  if (childOf(appearance, 'HumanFace')) return { class: 'face' };
  if (childOf(appearance, 'VehicleInfo')) return { class: 'vehicle' };
  if (childOf(appearance, 'LicensePlateInfo')) return { class: 'plate' };
  return { class: 'other' };
}

function looksOf(appearance: Element): Looks {
  const plate = childOf(appearance, 'LicensePlateInfo', 'PlateNumber')?.text.trim();
  const clothing = childOf(appearance, 'HumanBody', 'Clothing');
  const [brand, model] = ['Brand', 'Model'].map((n) => childOf(appearance, 'VehicleInfo', n)?.text.trim());
  const [colour, upper, lower] = [
    colourIn(childOf(appearance, 'Color')),
    colourIn(childOf(clothing, 'Tops', 'Color')),
    colourIn(childOf(clothing, 'Bottoms', 'Color')),
  ];
  const fields = { ...(brand ? { make: brand } : {}), ...(model ? { model } : {}) };
  return {
    ...(colour ? { colour } : {}),
    ...(upper ? { upper } : {}),
    ...(lower ? { lower } : {}),
    ...(plate ? { plate } : {}),
    ...(Object.keys(fields).length ? { fields } : {}),
  };
}

/** The name of the heaviest colour cluster. YCbCr unless the colour space says RGB. */
function colourIn(color: Element | undefined): ColourName | undefined {
  const clusters = color ? childrenOf(color, 'ColorCluster') : [];
  const weight = (c: Element) => Number(childOf(c, 'Weight')?.text ?? 1);
  const heaviest = [...clusters].sort((a, b) => weight(b) - weight(a))[0];
  const value = childOf(heaviest, 'Color');
  if (!value) return undefined;
  const [x, y, z] = [numberIn(value, 'X'), numberIn(value, 'Y'), numberIn(value, 'Z')];
  if (/RGB$/i.test(value.attributes.Colorspace ?? '')) return colourOfRgb(x, y, z);
  // BT.601, full range.
  const clamp = (v: number) => Math.min(255, Math.max(0, v));
  return colourOfRgb(clamp(x + 1.402 * (z - 128)), clamp(x - 0.344136 * (y - 128) - 0.714136 * (z - 128)), clamp(x + 1.772 * (y - 128)));
}

const spaces = 'xmlns:tt="http://www.onvif.org/ver10/schema"';
const places = (v: number) => String(Math.round(v * 1e6) / 1e6);
/** One colour that each name is read back from. */
const sampleRgb: Readonly<Record<ColourName, readonly [number, number, number]>> = {
  black: [10, 10, 10],
  grey: [128, 128, 128],
  white: [245, 245, 245],
  red: [200, 20, 20],
  orange: [245, 140, 20],
  yellow: [235, 215, 30],
  green: [30, 150, 40],
  blue: [30, 60, 200],
  purple: [130, 40, 160],
  pink: [250, 150, 190],
  brown: [110, 65, 30],
};

const cluster = (name: ColourName) => {
  const [r, g, b] = sampleRgb[name];
  return `<tt:Color><tt:ColorCluster><tt:Color X="${r}" Y="${g}" Z="${b}" Colorspace="http://www.onvif.org/ver10/colorspace/RGB"/><tt:Weight>1</tt:Weight></tt:ColorCluster></tt:Color>`;
};

/** Frames as one metadata document, coordinates in the standard's own −1..1. */
export function writeOnvifMetadata(frames: readonly Frame[]): string {
  const body = frames.map((f) => `<tt:Frame UtcTime="${isoInstant(f.at)}">${f.objects.map(objectText).join('')}</tt:Frame>`).join('');
  return `<?xml version="1.0" encoding="UTF-8"?>\n<tt:MetadataStream ${spaces}><tt:VideoAnalytics>${body}</tt:VideoAnalytics></tt:MetadataStream>\n`;
}

function objectText(o: SeenObject): string {
  const [x, y, w, h] = o.box;
  const id = o.track === undefined ? '' : ` ObjectId="${xmlText(o.track)}"`;
  const edge = (name: string, v: number) => `${name}="${places(v)}"`;
  const box = [edge('left', 2 * x - 1), edge('top', 1 - 2 * y), edge('right', 2 * (x + w) - 1), edge('bottom', 1 - 2 * (y + h))].join(' ');
  const cls = `<tt:Class><tt:Type Likelihood="${places(o.score)}">${onvifName(o.type && o.class !== 'vehicle' ? o : { class: o.class })}</tt:Type></tt:Class>`;
  return `<tt:Object${id}><tt:Appearance>${o.looks?.colour ? cluster(o.looks.colour) : ''}<tt:Shape><tt:BoundingBox ${box}/><tt:CenterOfGravity ${edge('x', 2 * (x + w / 2) - 1)} ${edge('y', 1 - 2 * (y + h / 2))}/></tt:Shape>${cls}${looksText(o)}</tt:Appearance></tt:Object>`;
}

function looksText({ class: cls, type, looks }: SeenObject): string {
  const worn = (name: 'Tops' | 'Bottoms', colour: ColourName | undefined) => (colour ? `<tt:${name}>${cluster(colour)}</tt:${name}>` : '');
  const { make, model } = looks?.fields ?? {};
  const vehicle = [
    type && cls === 'vehicle' ? `<tt:Type Likelihood="1">${onvifName({ class: cls, type: type as TypeName })}</tt:Type>` : '',
    make ? `<tt:Brand>${xmlText(make)}</tt:Brand>` : '',
    model ? `<tt:Model>${xmlText(model)}</tt:Model>` : '',
  ].join('');
  const clothing = worn('Tops', looks?.upper) + worn('Bottoms', looks?.lower);
  return [
    vehicle ? `<tt:VehicleInfo>${vehicle}</tt:VehicleInfo>` : '',
    looks?.plate
      ? `<tt:LicensePlateInfo><tt:PlateNumber Likelihood="1">${xmlText(looks.plate)}</tt:PlateNumber></tt:LicensePlateInfo>`
      : '',
    clothing ? `<tt:HumanBody><tt:Clothing>${clothing}</tt:Clothing></tt:HumanBody>` : '',
  ].join('');
}
