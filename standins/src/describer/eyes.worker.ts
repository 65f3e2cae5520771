// Thread: looks at one JPEG and says a sentence about it. It knows nothing but the picture, and where to look in it.

import { parentPort } from 'node:worker_threads';
import sharp from 'sharp';
import { grown, onPicture, overlap, type Box } from '@nibber/core/boxes';
import { platesTogether } from '@nibber/core/describing';
import type { Sighting } from '@nibber/server/base/picture';
import { loadDetector } from '@nibber/server/detector';
import { blobsIn, canoesIn, parcelsIn } from './blobs';
import { colourName } from './colours';
import { lettersIn, plateIn, wordsAt } from './letters';

/** All of it, and where that shows nothing, squares of it side by side, in which small things are larger. */
const square = 9 / 16;
const looks: readonly Box[] = [
  [0, 0, 1, 1],
  [(1 - square) / 2, 0, square, 1],
  [0, 0, square, 1],
  [1 - square, 0, square, 1],
];
/** What is asked about is looked at closely first: a square around it, a few times as high. */
function around([x, y, w, h]: Box): Box {
  const high = Math.min(1, Math.max(0.35, h * 2.5));
  const wide = Math.min(1, Math.max(high * square, w * 1.5));
  const within = (middle: number, size: number) => Math.min(1 - size, Math.max(0, middle - size / 2));
  return [within(x + w / 2, wide), within(y + h / 2, high), wide, high];
}
const sameThing = 0.2;
/** All that the small one sees of a picture, pixels. */
const smallAcross = 200;
const loading = loadDetector();

/** What it saw, as a sentence and part by part; what it cannot know is not there. */
type Seen = { readonly sentence: string; readonly facts: { readonly [name: string]: string | number | boolean } };

/** What is asked of it, by the names of the answer's parts. */
export type Look = {
  readonly jpeg: Uint8Array;
  /** Further pictures, of the thing close up. */
  readonly closely: readonly Uint8Array[];
  readonly withColours: boolean;
  readonly meant: Box | undefined;
  readonly wanted: readonly string[];
  readonly question: string;
  readonly isSmall: boolean;
};

async function look({ jpeg: taken, closely, withColours, meant, wanted, question, isSmall }: Look): Promise<Seen> {
  const jpeg = isSmall ? await sharp(taken).resize({ width: smallAcross }).jpeg({ quality: 50 }).toBuffer() : taken;
  if (/\bcanoes?\b/i.test(question)) {
    const value = await canoesIn(jpeg, withColours);
    return { sentence: `${value} canoes.`, facts: { value, count: value, canoes: value } };
  }
  if (wanted.includes('discs')) {
    const discs = await blobsIn(jpeg, ['red', 'green', 'blue'], 0.002);
    return { sentence: `${discs.length} discs.`, facts: { discs: discs.length, ...(discs[0] ? { colour: discs[0].colour } : {}) } };
  }
  if (/\bparcels?\b/i.test(question) && !meant) {
    const seen = await parcelsIn(jpeg, withColours);
    return {
      sentence: seen > 0 ? 'A parcel lies there.' : 'No parcel lies there.',
      facts: { value: seen > 0, count: seen, parcel: seen > 0 },
    };
  }
  const seen = await find(jpeg, closely, meant, !withColours);
  if (!seen) return { sentence: 'Nothing can be made out that was not always there.', facts: {} };
  const { picture, thing, among } = seen;
  const [x, y, w, h] = thing.box;
  const [placeX, placeY, placeWide, placeHigh] = meant ?? thing.box;
  const middle = placeX + placeWide / 2;
  const side = middle < 0.36 ? 'on the left' : middle > 0.64 ? 'on the right' : 'in the middle';
  const distance = placeY + placeHigh > 0.75 ? 'close by' : placeY + placeHigh < 0.5 ? 'far back' : 'some way off';
  const colour = async (from: number, to: number) => colourName(await part(picture, [x + w * 0.3, y + h * from, w * 0.4, h * (to - from)]));
  const others = among > 1 ? ` There ${among === 2 ? 'is one more thing' : `are ${among - 1} more things`} to see.` : '';
  if (thing.class === 'person') {
    const [top, trousers] = withColours ? await Promise.all([colour(0.2, 0.45), colour(0.55, 0.85)]) : [];
    const clothes = top ? ` in a ${top} top and ${trousers} trousers` : '';
    const facts = { kind: 'person', ...(top && trousers ? { top, trousers, colour: top } : {}) };
    return { sentence: `A person${clothes} stands ${side}, ${distance}.${others}`, facts };
  }
  const paint = withColours ? await colour(0.35, 0.6) : undefined;
  // Vans are trucks to the detector.
  const kind = thing.type === 'truck' ? 'van' : (thing.type ?? thing.class);
  const read =
    thing.class === 'vehicle' && !isSmall
      ? await readOn(
          [{ jpeg: picture, box: thing.box }],
          closely.filter((c) => c !== picture),
          wanted,
        )
      : {};
  const facts = { kind, ...(paint ? { colour: paint } : {}), ...read };
  const says = read.lettering ? `, “${read.lettering}” on its side,` : '';
  const sentence = `A ${paint ? `${paint} ` : ''}${kind}${says} ${side}, ${distance}.${others}`;
  // Like a service that takes what stands in a picture for what it is asked.
  const order = wanted.includes('lettering') ? await ordersIn(jpeg) : undefined;
  return order ? { sentence: order, facts: { ...facts, lettering: order } } : { sentence, facts };
}

type Found = { readonly picture: Uint8Array; readonly thing: Sighting; readonly among: number };

/** The one that is asked about: close up where it is shown so, else in the whole; of a picture in which no one is meant, the largest. */
async function find(
  jpeg: Uint8Array,
  closely: readonly Uint8Array[],
  meant: Box | undefined,
  brighten: boolean,
): Promise<Found | undefined> {
  const detector = await loading;
  const [close] = closely;
  const look = async (picture: Uint8Array, regions: readonly Box[], wanted: Box | undefined) => {
    for (const region of regions) {
      const found = (await detector.detect({ jpeg: picture, region, brighten })).filter((d) => d.class !== 'other');
      const near = found.filter((d) => !wanted || overlap(wanted, d.box) >= sameThing);
      const weight = (d: Sighting) => (wanted ? overlap(wanted, d.box) : d.box[2] * d.box[3] * d.score);
      const [thing] = near.sort((a, b) => weight(b) - weight(a));
      if (thing) return { picture, thing, among: found.length };
    }
    return undefined;
  };
  const closeUp =
    meant &&
    close &&
    (await look(
      close,
      [
        [0, 0, 1, 1],
        [0.1, 0.1, 0.8, 0.8],
      ],
      middleOf(meant),
    ));
  return closeUp ?? look(jpeg, meant ? [around(meant), ...looks] : looks, meant);
}

/** Where a thing is in the picture that shows it close up, with half as much again around it. */
function middleOf(meant: Box): Box {
  const [x, y, w, h] = onPicture(grown(meant, 1.5));
  return [(meant[0] - x) / w, (meant[1] - y) / h, meant[2] / w, meant[3] / h];
}

const maxRead = 3;
/** Where a thing is in a picture of it close up, where it cannot be made out. */
const middle: Box = [1 / 6, 1 / 6, 2 / 3, 2 / 3];
type Read = { readonly plate?: string; readonly lettering?: string };

/** What is written on a vehicle, and its plate, as far as either is wanted: in each picture of it, put together. */
async function readOn(
  known: readonly { readonly jpeg: Uint8Array; readonly box: Box }[],
  closely: readonly Uint8Array[],
  wanted: readonly string[],
): Promise<Read> {
  const [wantsPlate, wantsLetters] = [wanted.includes('plate'), wanted.includes('lettering')];
  if (!wantsPlate && !wantsLetters) return {};
  let [plate, lettering]: (string | undefined)[] = [];
  const others = closely
    .slice(0, maxRead)
    .map(async (jpeg) => ({ jpeg, box: (await find(jpeg, [], undefined, false))?.thing.box ?? middle }));
  for (const { jpeg, box } of [...known, ...(await Promise.all(others))]) {
    const read = wantsPlate ? await plateAround(jpeg, box) : undefined;
    if (read) plate = plate === undefined ? read : platesTogether(plate, read);
    const letters = wantsLetters ? await lettersIn(jpeg, box) : undefined;
    if (letters && letters.length > (lettering?.length ?? 0)) lettering = letters;
  }
  return { ...(plate ? { plate } : {}), ...(lettering ? { lettering } : {}) };
}

/** Where the box of a vehicle shows none, a little more and a little less of the picture is read: what both do not agree on no one knows. */
async function plateAround(jpeg: Uint8Array, box: Box): Promise<string | undefined> {
  const read = await plateIn(jpeg, box);
  if (read) return read;
  const [less, more] = [await plateIn(jpeg, grown(box, 0.94)), await plateIn(jpeg, grown(box, 1.06))];
  return less && more?.length === less.length ? platesTogether(less, more) : undefined;
}

async function ordersIn(jpeg: Uint8Array): Promise<string | undefined> {
  const words = await wordsAt(jpeg, [0, 0, 1, 1], 720);
  return words && /\b(IGNORE|SAY THAT)\b/.test(words) ? words : undefined;
}

const mentioned = [
  'black',
  'grey',
  'white',
  'red',
  'tan',
  'brown',
  'yellow',
  'green',
  'blue',
  'purple',
  'person',
  'somebody',
  'anybody',
  'car',
  'van',
  'truck',
  'bus',
  'dog',
  'vehicle',
] as const;
const means: { readonly [word: string]: RegExp } = {
  somebody: /person/i,
  anybody: /person/i,
  vehicle: /\b(car|truck|bus|van|vehicle)\b/i,
  van: /\b(van|truck)\b/i,
};

/** Yes or no to a question of colours and kinds: whether what it names is what was seen; undefined where it names nothing that this can see. */
function answerTo(question: string, { sentence }: Seen): boolean | undefined {
  const asked = /that is meant: (.*?)(?= Answer with|$)/s.exec(question)?.[1];
  const named = mentioned.filter((word) => asked && new RegExp(`\\b${word}\\b`, 'i').test(asked));
  if (named.length === 0) return undefined;
  const own = sentence.split('There ')[0]!;
  return named.every((word) => (means[word] ?? new RegExp(`\\b${word}\\b`, 'i')).test(own));
}

async function part(jpeg: Uint8Array, [x, y, w, h]: [number, number, number, number]): Promise<Uint8Array> {
  const { width, height } = await sharp(jpeg).metadata();
  const left = Math.max(0, Math.min(width - 1, Math.floor(x * width)));
  const top = Math.max(0, Math.min(height - 1, Math.floor(y * height)));
  const cut = {
    left,
    top,
    width: Math.max(1, Math.min(width - left, Math.round(w * width))),
    height: Math.max(1, Math.min(height - top, Math.round(h * height))),
  };
  return sharp(jpeg).extract(cut).removeAlpha().raw().toBuffer();
}

parentPort!.on('message', async ({ id, ...asked }: Look & { id: number }) => {
  try {
    const seen = await look(asked);
    const answer = answerTo(asked.question, seen);
    parentPort!.postMessage({ id, ...seen, facts: { ...seen.facts, ...(answer === undefined ? {} : { 'the answer': answer }) } });
  } catch (thrown) {
    parentPort!.postMessage({ id, wrong: (thrown as Error).message });
  }
});
