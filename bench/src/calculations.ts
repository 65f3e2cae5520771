// The core's calculations, in one process of their own; prints one JSON object. Times are processor time, which other programs on the
// machine do not lengthen.

import * as openCv from '@techstark/opencv-js';
import { tracksInShape, type Path } from '@nibber/core/tracks-in-shape';
import { judgeRecentFrames, packCells, defaultTuning } from '@nibber/core/tuning';
import { look, newBackground, defaultMotion } from '@nibber/core/motion';
import { quieter, rehearse, type Mark } from '@nibber/core/rehearsal';
import { startState, step, type Input } from '@nibber/core/sieve';
import { compileSite, type SiteFile } from '@nibber/core/site';
import { siteWith } from '@nibber/core/testing';
import { follow, newTracker, type Frame } from '@nibber/core/tracks';
import { aWeek, scatter, sixCameras, tenRules } from './invented';
import { median, rounded, type Figures } from './measure';

function cpuSeconds(work: () => void): number {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1e6;
}

const often = (times: number, work: () => void): number => median(Array.from({ length: times }, () => cpuSeconds(work)));

function rehearsal(): Figures {
  const inputs = aWeek(250_000);
  const before = siteWith(sixCameras);
  const after = siteWith((f) => {
    sixCameras(f);
    f.rules!.forEach((r) => (r.confidence = 0.6));
  });
  const time = often(5, () => void rehearse(before, after, inputs));
  const { kept } = rehearse(before, before, inputs);
  const own = kept.filter((e) => e.rule === 'r0').slice(0, 60);
  const marks = own.map((e, i): Mark => ({ camera: e.source, track: e.track!, at: e.at, mark: i % 2 ? 'noise' : 'useful' }));
  if (marks.length !== 60) throw new Error(`${marks.length} events to mark`);
  let steps = 0;
  const searching = cpuSeconds(() => {
    const search = quieter(before.file, 'r0', inputs, marks);
    while (!search.next().done) steps++;
  });
  return {
    'rehearsal of a week of six cameras, 250,000 frames, s': rounded(time, 2),
    'quieter over that week, 60 marks, s': rounded(searching, 2),
    'quieter: settings tried': steps,
  };
}

function tracker(): Figures {
  const random = scatter(5);
  const things = Array.from({ length: 30 }, () => ({ x: random(), y: random(), dx: (random() - 0.5) / 300, dy: (random() - 0.5) / 300 }));
  const frames = Array.from({ length: 2000 }, (_, n): Frame => ({
    at: n * 200,
    camera: 'c',
    objects: things.map((t) => ({
      class: 'person',
      score: 0.8,
      box: [Math.abs((t.x + t.dx * n) % 1), Math.abs((t.y + t.dy * n) % 1), 0.04, 0.1],
    })),
  }));
  const time = often(3, () => {
    const own = newTracker();
    for (const f of frames) follow(own, f);
  });
  return { 'tracker with 30 objects, ms a frame': rounded((time * 1000) / frames.length, 3) };
}

/** What a frame costs must not grow with the number of frames, nor more than in proportion with the number of rules. */
function growth(): Figures {
  const perFrame = (frames: number, file: SiteFile): number => {
    const inputs = aWeek(frames).map((i): Input => (i.kind === 'frame' ? { kind: 'frame', frame: { ...i.frame, camera: 'gate' } } : i));
    const site = compileSite(file);
    return (
      (often(3, () => {
        const state = startState();
        for (const i of inputs) step(site, state, i);
      }) *
        1e6) /
      frames
    );
  };
  const ten = siteWith(tenRules).file;
  const rules = (n: number): SiteFile => ({
    ...ten,
    rules: Array.from({ length: n }, (_, i) => ({ ...ten.rules![i % 10]!, id: `r${i}` })),
  });
  perFrame(40_000, ten);
  return {
    'sieve, 10 rules, 50,000 frames, µs a frame': rounded(perFrame(50_000, ten), 2),
    'sieve, 10 rules, 100,000 frames, µs a frame': rounded(perFrame(100_000, ten), 2),
    'sieve, 10 rules, 200,000 frames, µs a frame': rounded(perFrame(200_000, ten), 2),
    'sieve, 20 rules, 100,000 frames, µs a frame': rounded(perFrame(100_000, rules(20)), 2),
    'sieve, 40 rules, 100,000 frames, µs a frame': rounded(perFrame(100_000, rules(40)), 2),
  };
}

const [width, height] = [640, 360];

async function motion(): Promise<Figures> {
  const loaded = ((openCv as unknown as { default?: unknown }).default ?? openCv) as typeof openCv & { onRuntimeInitialized?: () => void };
  // What it gives is itself a promise, or waits to be told of; awaiting the library itself never ends.
  const cv = loaded instanceof Promise ? ((await loaded) as typeof openCv) : loaded;
  if (!cv.Mat) await new Promise<void>((resolve) => (loaded.onRuntimeInitialized = resolve));
  const random = scatter(7);
  const film = Array.from({ length: 80 }, (_, n) => {
    const grey = Uint8Array.from({ length: width * height }, (_v, i) => 60 + ((i * 7) % 90) + Math.floor(random() * 5));
    for (let k = 0; k < 3; k++)
      for (let y = 40 + k * 80; y < 100 + k * 80; y++) grey.fill(250, y * width + 50 + n * 4 + k * 90, y * width + 80 + n * 4 + k * 90);
    return grey;
  });
  const own: string[] = [];
  const theirs: string[] = [];
  const ownTime = often(5, () => {
    const background = newBackground(width, height);
    own.length = 0;
    for (const grey of film)
      for (const [x, y, w, h] of look(background, grey, undefined).parts)
        own.push([x * width, y * height, w * width, h * height].map(Math.round).join(' '));
  });
  const mats = Array.from({ length: 8 }, () => new cv.Mat());
  const [float, average, difference, over, mask, labels, stats, centres] = mats as [
    openCv.Mat,
    openCv.Mat,
    openCv.Mat,
    openCv.Mat,
    openCv.Mat,
    openCv.Mat,
    openCv.Mat,
    openCv.Mat,
  ];
  const source = new cv.Mat(height, width, cv.CV_8UC1);
  const kernel = cv.Mat.ones(3, 3, cv.CV_8U);
  const theirTime = often(5, () => {
    theirs.length = 0;
    film.forEach((grey, n) => {
      source.data.set(grey);
      source.convertTo(float, cv.CV_32F);
      if (n === 0) return void float.copyTo(average);
      cv.absdiff(float, average, difference);
      cv.threshold(difference, over, defaultMotion.threshold, 1, cv.THRESH_BINARY);
      over.convertTo(mask, cv.CV_8U);
      cv.dilate(mask, mask, kernel);
      const count = cv.connectedComponentsWithStats(mask, labels, stats, centres, 8);
      cv.addWeighted(average, 1 - defaultMotion.learning, float, defaultMotion.learning, 0, average);
      for (let i = 1; i < count; i++)
        if (stats.intAt(i, 4) >= defaultMotion.smallestPart) theirs.push([0, 1, 2, 3].map((k) => stats.intAt(i, k)).join(' '));
    });
  });
  if (own.sort().join() !== theirs.sort().join()) throw new Error('OpenCV finds other parts');
  return {
    'motion on 640×360, ms a picture': rounded((ownTime * 1000) / film.length, 2),
    'motion: time over the same steps of OpenCV': rounded(ownTime / theirTime, 2),
  };
}

/** What a shape catches of three days' tracks, asked at every move of a finger: a sixtieth of a second is what there is. */
function drawing(): Figures {
  const random = scatter(5);
  const paths: Path[] = Array.from({ length: 1500 }, () => {
    let [x, y] = [random(), random()];
    const feet = Array.from({ length: 40 }, () => [(x += (random() - 0.5) * 0.05), (y += (random() - 0.5) * 0.05)] as const);
    return { class: 'person', feet };
  });
  const around = (n: number, i: number) =>
    [0.5 + 0.3 * Math.cos((i / n) * 2 * Math.PI), 0.5 + 0.3 * Math.sin((i / n) * 2 * Math.PI)] as const;
  const zone = { kind: 'zone' as const, points: Array.from({ length: 32 }, (_, i) => around(32, i)) };
  const line = {
    kind: 'line' as const,
    points: [
      [0.2, 0.5],
      [0.4, 0.55],
      [0.6, 0.5],
      [0.8, 0.55],
    ] as const,
  };
  const each = (shape: Parameters<typeof tracksInShape>[0]) => rounded(often(15, () => void tracksInShape(shape, paths)) * 1000, 1);
  return { 'a zone of 32 points over 1500 tracks, ms': each(zone), 'a line of 4 points over 1500 tracks, ms': each(line) };
}

/** Two minutes of a camera as they are judged again while a slider is dragged, newest first; the picture that is looked at comes at once. */
function tuning(): Figures {
  const [width, height] = [240, 135];
  const random = scatter(9);
  const pictures = Array.from({ length: 600 }, (_, n) => {
    const plain = Uint8Array.from({ length: width * height }, () => random() * 9);
    for (let y = 40; y < 80; y++) plain.fill(90, y * width + 20 + (n % 150), y * width + 45 + (n % 150));
    return { at: n * 200, width, height, counted: width * height, cells: packCells({ plain, drawn: plain }) };
  });
  const each = often(5, () => pictures.forEach((p) => void judgeRecentFrames(p, { ...defaultTuning, contrast: 0.3 })));
  return {
    'a picture judged anew while tuning, ms': rounded((each * 1000) / pictures.length, 2),
    'two minutes kept for tuning, MB': rounded(pictures.reduce((sum, p) => sum + p.cells.length, 0) / 1e6, 1),
  };
}

async function main() {
  console.log(JSON.stringify({ ...(await motion()), ...tracker(), ...growth(), ...rehearsal(), ...drawing(), ...tuning() }));
  process.exit(0);
}

main().catch((thrown: Error) => {
  console.error(thrown);
  process.exit(1);
});
