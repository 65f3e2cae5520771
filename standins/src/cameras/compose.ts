// Puts figures into a camera's picture: sized by distance, feet on the ground, hidden by what stands before them.

import sharp from 'sharp';
import { withCanoes } from './canoes';
import { cast, type FigureName } from './cast';
import { background, depth, sheet, type Depth, type Light, type Pixels, type Sheet } from './sheets';
import { mounting, poses, project, seenFrom, type CameraName, type GroundPoint } from './view';

/** Someone in the world: where, which way (radians, 0 is east, anticlockwise), how far they have come (for the step). */
export type Figure = { readonly figure: FigureName; readonly at: GroundPoint; readonly heading: number; readonly walkedMetres: number };

/** The figure's true box, 0..1 of the picture, whether or not all of it shows. */
export type Placed = { readonly figure: FigureName; readonly box: readonly [number, number, number, number] };

const referenceWidth = 960;
const nearestMetres = 2.2;
const farthestMetres = 60;
/** The ground this much nearer than a figure's middle hides it: half of how far it reaches towards the camera, metres. */
const reach = { thin: 0.35, carLong: 2.7, carWide: 1.2 };
const jpegQuality = 82;
const noiseSize = 1 << 21;

export type Composer = {
  /** @returns null where no one is in view */
  compose(figures: readonly Figure[], light: Light, width: number): Promise<{ pixels: Pixels; placed: Placed[] } | null>;
  empty(light: Light, width: number): Promise<Pixels>;
  /** What of the site itself may change, as it is now. */
  props(): string;
};

/** @param canoes how many are at home; none are painted where no one says */
export async function composer(camera: CameraName, canoes: () => number = () => 0): Promise<Composer> {
  const pose = poses[camera];
  const near = await depth(camera);
  const home = () => (camera === 'racks' ? canoes() : 0);
  const painted = remembering(async (light: Light, width: number, out: number) => {
    const view = await background(camera, light, width);
    return out > 0 ? withCanoes(view, out, light) : view;
  });
  const backgrounds = (light: Light, width: number) => painted(light, width, home());
  return {
    empty: backgrounds,
    props: () => String(home()),
    async compose(figures, light, width) {
      const seen = figures
        .map((f) => ({ ...f, local: seenFrom(pose, f.at), heading: f.heading + (pose.headingDegrees * Math.PI) / 180 }))
        .filter(({ local }) => -local.z > nearestMetres && -local.z < farthestMetres)
        .sort((a, b) => a.local.z - b.local.z);
      if (seen.length === 0) return null;
      const base = await backgrounds(light, width);
      const pixels = { ...base, data: Uint8Array.from(base.data) };
      const placed: Placed[] = [];
      for (const f of seen) {
        const box = drawFigure(pixels, near, await sheets(f.figure, light), f);
        if (box) placed.push({ figure: f.figure, box });
      }
      return placed.length ? { pixels, placed } : null;
    },
  };
}

const sheets = remembering((figure: FigureName, light: Light) => sheet(figure, light));

function remembering<A extends readonly (string | number)[], T>(make: (...args: A) => Promise<T>): (...args: A) => Promise<T> {
  const made = new Map<string, Promise<T>>();
  return (...args) => {
    const key = args.join(' ');
    if (!made.has(key)) made.set(key, make(...args));
    return made.get(key)!;
  };
}

type Local = Figure & { readonly local: GroundPoint };

function cellFor(figures: Sheet, f: Local) {
  const around = (value: number, n: number) => ((Math.round(value) % n) + n) % n;
  const step = (f.walkedMetres / cast[f.figure].strideMetres) * figures.phases;
  // Seen at an angle, a figure shows another side than one straight ahead.
  const heading = ((f.heading + Math.atan2(f.local.x, -f.local.z)) / (2 * Math.PI)) * figures.headings;
  return figures.cells[around(step, figures.phases) * figures.headings + around(heading, figures.headings)]!;
}

/** Draws one figure. @returns its box, or undefined where it is outside the picture */
function drawFigure(to: Pixels, near: Depth, figures: Sheet, f: Local): Placed['box'] | undefined {
  const cell = cellFor(figures, f);
  const feet = project(f.local, to.width);
  const drawnAt = project({ x: mounting.spriteAt[0], z: mounting.spriteAt[1] }, referenceWidth);
  const scale = ((drawnAt.depth / feet.depth) * to.width) / referenceWidth;
  const left = feet.x + (cell.left / figures.scale - drawnAt.x) * scale;
  const top = feet.y + (cell.top / figures.scale - drawnAt.y) * scale;
  const [width, height] = [(cell.sheet[2] / figures.scale) * scale, (cell.sheet[3] / figures.scale) * scale];
  if (left >= to.width || left + width <= 0 || top >= to.height || top + height <= 0) return undefined;
  const source = cell.sizes.find((s, i) => s.width / width <= 1.9 || i === cell.sizes.length - 1)!;
  blend(to, source, { left, top, width, height }, near, feet.depth - reachOf(f));
  const [x, y] = [
    (v: number) => (feet.x + (v - drawnAt.x) * scale) / to.width,
    (v: number) => (feet.y + (v - drawnAt.y) * scale) / to.height,
  ];
  return [x(cell.box[0]), y(cell.box[1]), x(cell.box[2]) - x(cell.box[0]), y(cell.box[3]) - y(cell.box[1])];
}

function reachOf(f: Local): number {
  if (cast[f.figure].kind !== 'car') return reach.thin;
  return Math.abs(Math.sin(f.heading)) * reach.carLong + Math.abs(Math.cos(f.heading)) * reach.carWide;
}

function blend(
  to: Pixels,
  source: Pixels,
  at: { left: number; top: number; width: number; height: number },
  near: Depth,
  metres: number,
): void {
  const [kx, ky] = [source.width / at.width, source.height / at.height];
  const { data: s } = source;
  const toDepth = near.width / to.width;
  const bottom = Math.min(to.height, at.top + at.height);
  const right = Math.min(to.width, at.left + at.width);
  for (let y = Math.max(0, Math.ceil(at.top)); y < bottom; y++) {
    const sy = Math.min(source.height - 1.001, Math.max(0, (y + 0.5 - at.top) * ky - 0.5));
    const [iy, fy] = [Math.floor(sy), sy % 1];
    for (let x = Math.max(0, Math.ceil(at.left)); x < right; x++) {
      if (near.metresAt(Math.floor(x * toDepth), Math.floor(y * toDepth)) < metres) continue;
      const sx = Math.min(source.width - 1.001, Math.max(0, (x + 0.5 - at.left) * kx - 0.5));
      const [ix, fx] = [Math.floor(sx), sx % 1];
      const i = (iy * source.width + ix) * 4;
      const j = i + source.width * 4;
      const [a, b, c, d] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
      const alpha = s[i + 3]! * a + s[i + 7]! * b + s[j + 3]! * c + s[j + 7]! * d;
      if (alpha < 1) continue;
      const o = (y * to.width + x) * 3;
      const rest = 1 - alpha / 255;
      for (let k = 0; k < 3; k++)
        to.data[o + k] = to.data[o + k]! * rest + s[i + k]! * a + s[i + 4 + k]! * b + s[j + k]! * c + s[j + 4 + k]! * d;
    }
  }
}

/** Sensor noise, near enough to normal, ten grey levels at one deviation. */
const noise = (() => {
  const tile = new Int8Array(noiseSize);
  let seed = 12345;
  const next = () => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296;
  for (let i = 0; i < tile.length; i++) tile[i] = Math.max(-60, Math.min(60, (next() + next() + next() + next() - 2) * 17.3));
  return tile;
})();

/** How much of each colour is left. */
const left: { readonly [L in Light]: readonly [red: number, green: number, blue: number] } = {
  day: [1, 1, 1],
  dusk: [0.68, 0.66, 0.72],
  night: [1, 1, 1],
};

/** The picture as the sensor gives it: noisy, as a JPEG. */
export async function asTaken(pixels: Pixels, light: Light, seed: number): Promise<Buffer> {
  const out = new Uint8ClampedArray(pixels.data.length);
  const amount = light === 'day' ? 0.3 : 0.4;
  const [red, green, blue] = left[light];
  const start = (Math.imul(seed + 1, 2654435761) >>> 0) % (noiseSize / 2);
  for (let i = 0, p = start; i < out.length; i += 3, p++) {
    const n = noise[p & (noiseSize - 1)]! * amount;
    out[i] = pixels.data[i]! * red + n;
    out[i + 1] = pixels.data[i + 1]! * green + n;
    out[i + 2] = pixels.data[i + 2]! * blue + n;
  }
  return sharp(out, { raw: { width: pixels.width, height: pixels.height, channels: 3 } })
    .jpeg({ quality: jpegQuality })
    .toBuffer();
}
