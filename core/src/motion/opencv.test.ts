// Reference: OpenCV compiled to WebAssembly, on the same frames.

import type * as OpenCv from '@techstark/opencv-js';
import { look, newBackground, defaultMotion } from '.';
import { sharpness } from '../stills';

const [width, height] = [320, 180];
let cv: typeof OpenCv;

beforeAll(async () => {
  const loaded = jest.requireActual('@techstark/opencv-js') as typeof OpenCv & { onRuntimeInitialized?: () => void };
  const ready = loaded instanceof Promise ? ((await loaded) as typeof OpenCv) : loaded;
  if (!ready.Mat) await new Promise<void>((resolve) => (loaded.onRuntimeInitialized = resolve));
  cv = ready;
}, 60_000);

/** Numbers that look random and are the same each time. */
function scatter(seed: number) {
  let s = seed;
  return () => (s = (Math.imul(s, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
}

/** Grey pictures of a still place with a little noise, in which three things move about. */
function film(frames: number): Uint8Array[] {
  const random = scatter(7);
  const place = Uint8Array.from({ length: width * height }, (_, i) => 60 + ((i * 7) % 90));
  const things = [0, 1, 2].map((k) => ({ x: 30 + k * 90, y: 20 + k * 40, w: 12 + k * 9, h: 20 + k * 8, dx: 3 - k, dy: k }));
  return Array.from({ length: frames }, (_, n) => {
    const grey = place.map((v) => v + Math.floor(random() * 5) - 2);
    if (n > 0)
      for (const t of things)
        for (let y = t.y + t.dy * n; y < Math.min(height, t.y + t.dy * n + t.h); y++)
          for (let x = t.x + t.dx * n; x < Math.min(width, t.x + t.dx * n + t.w); x++) grey[y * width + x] = 250;
    return grey;
  });
}

test('moving parts are those that the same steps of OpenCV find', () => {
  const background = newBackground(width, height);
  const average = new cv.Mat();
  const kernel = cv.Mat.ones(3, 3, cv.CV_8U);
  let compared = 0;
  film(20).forEach((grey, n) => {
    const source = cv.matFromArray(height, width, cv.CV_8UC1, [...grey]);
    const float = new cv.Mat();
    source.convertTo(float, cv.CV_32F);
    const own = look(background, grey, undefined);
    if (n === 0) return void float.copyTo(average);
    const [difference, over, mask, labels, stats, centres] = Array.from({ length: 6 }, () => new cv.Mat()) as [
      OpenCv.Mat,
      OpenCv.Mat,
      OpenCv.Mat,
      OpenCv.Mat,
      OpenCv.Mat,
      OpenCv.Mat,
    ];
    cv.absdiff(float, average, difference);
    cv.threshold(difference, over, defaultMotion.threshold, 1, cv.THRESH_BINARY);
    over.convertTo(mask, cv.CV_8U);
    cv.dilate(mask, mask, kernel);
    const count = cv.connectedComponentsWithStats(mask, labels, stats, centres, 8);
    cv.addWeighted(average, 1 - defaultMotion.learning, float, defaultMotion.learning, 0, average);
    const theirs = Array.from({ length: count - 1 }, (_, i) => [0, 1, 2, 3, 4].map((k) => stats.intAt(i + 1, k)))
      .filter((s) => s[4]! >= defaultMotion.smallestPart)
      .map(([x, y, w, h]) => `${x} ${y} ${w} ${h}`);
    expect(own.parts.map(([x, y, w, h]) => [x * width, y * height, w * width, h * height].map(Math.round).join(' ')).sort()).toEqual(
      theirs.sort(),
    );
    compared += theirs.length;
    for (const mat of [source, float, difference, over, mask, labels, stats, centres]) mat.delete();
  });
  expect(compared).toBeGreaterThan(40);
});

test('sharpness is the variance of OpenCV’s Laplacian', () => {
  for (const grey of film(3)) {
    const source = cv.matFromArray(height, width, cv.CV_8UC1, [...grey]);
    const [laplacian, mean, spread] = [new cv.Mat(), new cv.Mat(), new cv.Mat()];
    cv.Laplacian(source, laplacian, cv.CV_64F, 1);
    // OpenCV makes up pixels beyond the edge; we leave the edge out.
    cv.meanStdDev(laplacian.roi(new cv.Rect(1, 1, width - 2, height - 2)), mean, spread);
    expect(sharpness({ width, height, data: grey }, [0, 0, 1, 1])).toBeCloseTo(spread.doubleAt(0, 0) ** 2, 4);
  }
});
