// A walking person in plain clothes: trousers, shoes, jacket, head, hands, hair. Faces +x, feet on y = 0.

import { ball, body, limb, linear, noise, shade, toMesh, woven, type Paint, type Part, type Solid, type Vec3 } from './solids';

type Outfit = { jacket: number; trousers: number; shoes: number; hair: number; skin: number; shirt: number };

export const outfits = {
  navy: { jacket: 0x26304a, trousers: 0x4c628c, shoes: 0x3a2c24, hair: 0x2a1c12, skin: 0xd8a888, shirt: 0x9aa4ae },
  red: { jacket: 0x8a2f2a, trousers: 0x2a2c33, shoes: 0xd8d8d8, hair: 0x17120f, skin: 0xb98262, shirt: 0x333333 },
  black: { jacket: 0x232528, trousers: 0x566a8e, shoes: 0xd0d0d0, hair: 0x3a2618, skin: 0xdcae92, shirt: 0x8a3030 },
} satisfies Record<string, Outfit>;

const legSwing = 0.46;
const armSwing = 0.42;
const lean = 0.05;

/** @param phase of the step, radians */
export function person(phase: number, outfit: Outfit): Part[] {
  const legs = [-1, 1].map((side) => leg(phase + (side > 0 ? Math.PI : 0), 0.092 * side));
  const lift = -Math.min(...legs.map((l) => Math.min(l.toe[1] - 0.035, l.heel[1] - 0.04)));
  const up = (p: Vec3): Vec3 => [p[0], p[1] + lift, p[2]];
  const twist = 0.12 * Math.sin(phase);
  /** A point of the trunk: leaned forward and turned with the shoulders. */
  const trunk = (x: number, y: number, z: number): Vec3 => [x + lean * (y - 0.95) - (z * twist * (y - 0.95)) / 0.5, y + lift, z];

  const trousers: Solid[] = [ball([0, 0.95 + lift, 0], [0.125, 0.13, 0.165])];
  const shoes: Solid[] = [];
  for (const l of legs) {
    trousers.push(limb(up(l.hip), up(l.knee), 0.093, 0.066), limb(up(l.knee), up(l.ankle), 0.066, 0.053));
    shoes.push(body([limb(up(l.heel), up(l.toe), 0.043, 0.036), limb(up(l.heel), up(l.ankle), 0.045, 0.048)], 0.04));
  }

  const jacket: Solid[] = [
    ball(trunk(0, 1.3, 0), [0.125, 0.21, 0.178]),
    ball(trunk(0, 1.1, 0), [0.118, 0.19, 0.155]),
    ball(trunk(0, 0.97, 0), [0.135, 0.12, 0.178]),
    limb(trunk(0, 1.4, -0.12), trunk(0, 1.4, 0.12), 0.075, 0.075),
    limb(trunk(-0.01, 1.46, 0), trunk(-0.01, 1.41, 0.15), 0.06, 0.06),
    limb(trunk(-0.01, 1.46, 0), trunk(-0.01, 1.41, -0.15), 0.06, 0.06),
    limb(trunk(-0.005, 1.42, 0), trunk(0.005, 1.5, 0), 0.085, 0.06),
  ];
  const hands: Solid[] = [];
  for (const side of [-1, 1]) {
    const swing = phase + (side > 0 ? 0 : Math.PI);
    const upper = armSwing * Math.sin(swing) + 0.02;
    const bend = upper + 0.28 + 0.22 * Math.max(0, Math.sin(swing));
    const shoulder = trunk(0, 1.4, 0.178 * side);
    const elbow: Vec3 = [shoulder[0] + 0.29 * Math.sin(upper), shoulder[1] - 0.285 * Math.cos(upper), shoulder[2] + 0.019 * side];
    const wrist: Vec3 = [elbow[0] + 0.25 * Math.sin(bend), elbow[1] - 0.25 * Math.cos(bend), elbow[2] + 0.02 * side];
    jacket.push(limb(shoulder, elbow, 0.068, 0.053), limb(elbow, wrist, 0.054, 0.042));
    const along = (by: number): Vec3 => [wrist[0] + (wrist[0] - elbow[0]) * 4 * by, wrist[1] + (wrist[1] - elbow[1]) * 4 * by, wrist[2]];
    hands.push(limb(wrist, along(0.055), 0.03, 0.036), limb(along(0.05), along(0.12), 0.034, 0.022));
  }

  const face = trunk(0.035, 1.655, 0);
  const head = body(
    [
      ball(face, [0.098, 0.118, 0.077]),
      ball(trunk(0.065, 1.58, 0), [0.06, 0.055, 0.05]),
      limb(trunk(0, 1.47, 0), trunk(0.02, 1.58, 0), 0.056, 0.052),
      limb(trunk(0.133, 1.655, 0), trunk(0.147, 1.625, 0), 0.01, 0.015),
      ball(trunk(0.03, 1.645, 0.078), [0.022, 0.033, 0.012]),
      ball(trunk(0.03, 1.645, -0.078), [0.022, 0.033, 0.012]),
    ],
    0.02,
  );
  const scalp = body(
    [ball(trunk(0.017, 1.685, 0), [0.104, 0.108, 0.088]), ball(trunk(-0.015, 1.635, 0), [0.06, 0.085, 0.075])],
    0.02,
    (x, y, z) => 0.006 * noise(x * 40, y * 18, z * 40),
  );
  const hair: Solid = {
    ...scalp,
    distance: (x, y, z) => Math.max(scalp.distance(x, y, z), 0.75 * (x - face[0] - 0.045) - 0.65 * (y - face[1] - 0.055)),
  };
  const cloth = (a: number, b: number) => (x: number, y: number, z: number) =>
    a * noise(x * 14, y * 18, z * 14) + b * noise(x * 31, y * 40, z * 31);
  const part = (solid: Solid, cell: number, paint: Paint, roughness: number): Part => ({ ...toMesh(solid, cell, paint), roughness });
  const skin = linear(outfit.skin);
  return [
    part(body(trousers, 0.05, cloth(0.006, 0)), 0.015, woven(linear(outfit.trousers), 0.14, 9), 0.95),
    ...shoes.map((s) => part(s, 0.015, woven(linear(outfit.shoes), 0.1, 20), 0.6)),
    part(body(jacket, 0.045, cloth(0.007, 0.003)), 0.015, jacketPaint(outfit, lift), 0.92),
    part(head, 0.009, facePaint(outfit, face), 0.7),
    part(body(hands, 0.02), 0.015, woven(skin, 0.05, 20), 0.7),
    part(hair, 0.01, woven(linear(outfit.hair), 0.3, 30), 0.8),
  ];
}

function leg(phase: number, z: number) {
  const thigh = legSwing * Math.sin(phase) + 0.04;
  const shin = thigh - (0.1 + 0.85 * Math.max(0, Math.cos(phase)) ** 2);
  const foot = shin * 0.75;
  const hip: Vec3 = [0, 0.93, z];
  const knee: Vec3 = [0.43 * Math.sin(thigh), 0.93 - 0.43 * Math.cos(thigh), z * 1.02];
  const ankle: Vec3 = [knee[0] + 0.41 * Math.sin(shin), knee[1] - 0.41 * Math.cos(shin), z];
  const toe: Vec3 = [ankle[0] + 0.17 * Math.cos(foot), ankle[1] - 0.045 + 0.17 * Math.sin(foot), z * 1.15];
  const heel: Vec3 = [ankle[0] - 0.045 * Math.cos(foot), ankle[1] - 0.045 - 0.045 * Math.sin(foot), z];
  return { hip, knee, ankle, toe, heel };
}

/** Open collar over a shirt, and a dark seam down the front. */
function jacketPaint(outfit: Outfit, lift: number): Paint {
  const cloth = woven(linear(outfit.jacket), 0.12, 8);
  const shirt = linear(outfit.shirt);
  return (x, y, z, nx, ny, nz) => {
    const height = y - lift;
    const front = x - lean * (height - 0.95) > 0.05;
    if (front && height > 1.2 && Math.abs(z) < (0.055 * (height - 1.2)) / 0.25) return shirt;
    const colour = cloth(x, y, z, nx, ny, nz);
    return front && Math.abs(z) < 0.008 ? shade(colour, 0.5) : colour;
  };
}

function facePaint(outfit: Outfit, face: Vec3): Paint {
  const skin = linear(outfit.skin);
  return (x, y, z) => {
    const [fx, fy, side] = [x - face[0], y - face[1], Math.abs(z - face[2])];
    if (fx <= 0.06) return skin;
    if (Math.hypot(fy - 0.012, side - 0.034) < 0.014) return shade(skin, 0.11);
    if (Math.abs(fy - 0.04) < 0.007 && side > 0.015 && side < 0.055) return shade(skin, 0.35);
    if (Math.abs(fy + 0.066) < 0.008 && side < 0.026) return [skin[0] * 0.75, skin[1] * 0.4, skin[2] * 0.4];
    return skin;
  };
}
