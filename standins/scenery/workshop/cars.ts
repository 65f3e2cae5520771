// Cars from a side profile pulled across their width, painted by place. Nose towards +x, wheels on y = 0.

import { linear, shade, toMesh, type Colour, type Paint, type Part, type Solid } from './solids';

type Outline = readonly (readonly [number, number])[];
type Model = {
  readonly profile: Outline;
  readonly sideGlass: Outline;
  readonly beltMetres: number;
  readonly roofMetres: number;
  readonly axles: readonly [number, number];
  readonly wheelRadius: number;
  readonly halfWidth: number;
  readonly pillars: readonly number[];
  readonly windscreen: readonly [number, number];
  readonly rearScreenEnds: number;
  readonly doorSeams: readonly number[];
  /** How much narrower it becomes above the belt, by the metre. */
  readonly leansIn: number;
};

export const models = {
  hatchback: {
    profile: [
      [-1.95, 0.38],
      [-1.98, 0.62],
      [-1.9, 0.98],
      [-1.62, 1.42],
      [-1.3, 1.5],
      [-0.2, 1.52],
      [0.28, 1.44],
      [1.02, 1.02],
      [1.78, 0.86],
      [1.98, 0.7],
      [2.02, 0.4],
      [1.95, 0.26],
      [-1.9, 0.26],
    ],
    sideGlass: [
      [-1.55, 1.02],
      [-1.38, 1.38],
      [-0.2, 1.44],
      [0.22, 1.37],
      [0.78, 1.02],
    ],
    beltMetres: 0.97,
    roofMetres: 1.5,
    axles: [1.25, -1.25],
    wheelRadius: 0.31,
    halfWidth: 0.88,
    pillars: [-0.35, -1.0],
    windscreen: [0.3, 1.02],
    rearScreenEnds: -1.55,
    doorSeams: [-0.35, 0.72, -1.05],
    leansIn: 0.34,
  },
  saloon: {
    profile: [
      [-2.25, 0.38],
      [-2.3, 0.62],
      [-2.24, 0.92],
      [-1.55, 1.02],
      [-1.0, 1.38],
      [-0.6, 1.45],
      [0, 1.45],
      [0.35, 1.38],
      [1.08, 0.98],
      [1.98, 0.84],
      [2.22, 0.7],
      [2.27, 0.4],
      [2.2, 0.25],
      [-2.2, 0.25],
    ],
    sideGlass: [
      [-1.38, 1.0],
      [-0.95, 1.32],
      [-0.55, 1.38],
      [0, 1.385],
      [0.3, 1.32],
      [0.82, 1.0],
    ],
    beltMetres: 0.96,
    roofMetres: 1.44,
    axles: [1.42, -1.4],
    wheelRadius: 0.32,
    halfWidth: 0.91,
    pillars: [-0.2],
    windscreen: [0.36, 1.08],
    rearScreenEnds: -0.98,
    doorSeams: [-0.35, 0.72, -1.05],
    leansIn: 0.34,
  },
  van: {
    profile: [
      [-2.4, 0.4],
      [-2.42, 0.7],
      [-2.4, 1.2],
      [-2.36, 1.82],
      [-2.2, 1.95],
      [0.6, 1.96],
      [0.95, 1.88],
      [1.62, 1.2],
      [2.2, 1.05],
      [2.4, 0.85],
      [2.44, 0.5],
      [2.36, 0.28],
      [-2.36, 0.28],
    ],
    sideGlass: [
      [0.32, 1.15],
      [0.34, 1.7],
      [0.84, 1.72],
      [1.36, 1.15],
    ],
    beltMetres: 1.1,
    roofMetres: 1.93,
    axles: [1.55, -1.45],
    wheelRadius: 0.34,
    halfWidth: 0.96,
    pillars: [],
    windscreen: [0.95, 1.62],
    rearScreenEnds: -9,
    doorSeams: [0.26, 1.4, -0.72],
    leansIn: 0.06,
  },
} satisfies Record<string, Model>;

const glass: Colour = [0.012, 0.015, 0.018];
const black: Colour = [0.015, 0.015, 0.016];
const lamp: Colour = [0.75, 0.78, 0.8];
const tailLamp: Colour = [0.35, 0.01, 0.01];
const chrome: Colour = [0.4, 0.4, 0.42];
const edgeRound = 0.07;

export type Car = {
  readonly parts: Part[];
  readonly wheels: readonly { x: number; z: number; radius: number }[];
  readonly mirror: { x: number; y: number; z: number; colour: Colour };
  /** Where its number plates hang, nose and tail. */
  readonly plates: readonly { x: number; y: number; faces: 1 | -1 }[];
  /** Where there is room for words on its flank. */
  readonly flank: { x: number; y: number; z: number };
};

export function car(name: keyof typeof models, paintHex: number): Car {
  const model: Model = models[name];
  const shape = carBody(model);
  const paint = linear(paintHex);
  return {
    parts: [{ ...toMesh(shape.solid, 0.021, carPaint(model, shape, paint)), roughness: 0.28, glossy: true }],
    wheels: model.axles.map((x) => ({ x, radius: model.wheelRadius, z: model.halfWidth - 0.11 })),
    mirror: { x: model.windscreen[1] - 0.28, y: model.beltMetres + 0.08, z: model.halfWidth + 0.03, colour: shade(paint, 1) },
    plates: [
      { x: shape.front + 0.045, y: 0.455, faces: 1 },
      { x: shape.back - 0.02, y: 0.72, faces: -1 },
    ],
    flank: { x: -0.92, y: model.beltMetres + 0.36, z: shape.halfWidthAt(-0.5, model.beltMetres + 0.3) + 0.015 },
  };
}

function carBody(model: Model) {
  const profile = outlineDistance(model.profile);
  const xs = model.profile.map((p) => p[0]);
  const [front, back] = [Math.max(...xs), Math.min(...xs) - 0.03];
  const halfWidthAt = (x: number, y: number) => {
    let w = model.halfWidth - 0.13 * Math.pow(Math.abs(x) / front, 4);
    if (y > model.beltMetres) w -= (y - model.beltMetres) * model.leansIn;
    else w -= 0.1 * Math.pow(Math.max(0, model.beltMetres - y - 0.15) / 0.6, 2);
    return w + 0.012 * Math.exp(-(((y - model.beltMetres + 0.22) / 0.05) ** 2));
  };
  const solid: Solid = {
    distance: (x, y, z) => {
      const inPlane = profile(x, y) + edgeRound * 0.6;
      const across = Math.abs(z) - halfWidthAt(x, y) + edgeRound;
      let d = Math.min(Math.max(inPlane, across), 0) + Math.hypot(Math.max(inPlane, 0), Math.max(across, 0)) - edgeRound;
      for (const axle of model.axles) {
        const arch = model.wheelRadius + 0.06 - Math.hypot(x - axle, y - model.wheelRadius);
        d = Math.max(d, Math.min(arch, Math.abs(z) - (model.halfWidth - 0.32)));
      }
      return d;
    },
    low: [back, 0.18, -model.halfWidth - 0.03],
    high: [front + 0.06, model.roofMetres + 0.08, model.halfWidth + 0.03],
  };
  return { solid, front, back, halfWidthAt };
}

function carPaint(model: Model, shape: ReturnType<typeof carBody>, paint: Colour): Paint {
  const sideGlass = outlineDistance(model.sideGlass);
  const { beltMetres: belt, roofMetres: roof } = model;
  const flank = (x: number, y: number): Colour | undefined => {
    const g = sideGlass(x, y);
    if (g < 0) return model.pillars.some((p) => Math.abs(x - p) < 0.03) ? black : glass;
    if (g < 0.028 || y < 0.36) return black;
    if (y < belt && model.doorSeams.some((s) => Math.abs(x - s) < 0.013)) return black;
    const onHandle = [-0.22, -0.95].some((h) => x > h && x - h < 0.16) && Math.abs(y - (belt - 0.09)) < 0.016;
    return onHandle ? chrome : undefined;
  };
  const nose = (y: number, side: number, nx: number): Colour | undefined => {
    if (nx <= 0.4) return undefined;
    if (side < 0.26 && y > 0.4 && y < 0.51) return [0.7, 0.7, 0.68];
    if ((side < 0.5 && y > 0.52 && y < 0.7) || y < 0.38) return black;
    return undefined;
  };
  const tail = (y: number, side: number, nx: number, nz: number): Colour | undefined => {
    if (side > 0.52 && y > 0.66 && y < 0.94 && (nx < -0.3 || Math.abs(nz) > 0.5)) return tailLamp;
    if (nx < -0.4 && side < 0.26 && y > 0.66 && y < 0.78) return [0.7, 0.66, 0.3];
    return nx < -0.4 && y < 0.4 ? black : undefined;
  };
  return (x, y, z, nx, ny, nz) => {
    const side = Math.abs(z);
    const width = shape.halfWidthAt(x, y);
    if (ny < -0.6 || y < 0.27) return black;
    const inArch = (axle: number) => Math.hypot(x - axle, y - model.wheelRadius) < model.wheelRadius + 0.075;
    if (side < model.halfWidth - 0.04 && Math.abs(nz) < 0.5 && model.axles.some(inArch)) return black;
    const onFlank = Math.abs(nz) > 0.5 ? flank(x, y) : undefined;
    if (onFlank) return onFlank;
    if (nx > 0.3 && y > belt + 0.05 && y < roof - 0.1 && x > model.windscreen[0] - 0.05 && side < width - 0.075) return glass;
    if (nx < -0.25 && y > belt + 0.07 && y < roof - 0.1 && x < model.rearScreenEnds + 0.1 && side < width - 0.11) return glass;
    if (x > shape.front - 0.42 && y > 0.6 && y < 0.79 && side > 0.47 && nx > 0.15) return lamp;
    if (x > shape.front - 0.2) return nose(y, side, nx) ?? paint;
    if (x < shape.back + 0.3) return tail(y, side, nx, nz) ?? paint;
    return paint;
  };
}

/** Signed distance to a closed outline, negative inside. */
function outlineDistance(outline: Outline): (x: number, y: number) => number {
  return (px, py) => {
    let [nearest2, sign] = [Infinity, 1];
    outline.forEach(([ax, ay], i) => {
      const [bx, by] = outline[(i + outline.length - 1) % outline.length]!;
      const [ex, ey, wx, wy] = [bx - ax, by - ay, px - ax, py - ay];
      const t = Math.max(0, Math.min(1, (wx * ex + wy * ey) / (ex * ex + ey * ey)));
      nearest2 = Math.min(nearest2, (wx - ex * t) ** 2 + (wy - ey * t) ** 2);
      const [above, below, left] = [py >= ay, py < by, ex * wy > ey * wx];
      if ((above && below && left) || (!above && !below && !left)) sign = -sign;
    });
    return sign * Math.sqrt(nearest2);
  };
}
