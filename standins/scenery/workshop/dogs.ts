// A trotting dog. Faces +x, paws on y = 0.

import { ball, body, limb, linear, noise, shade, toMesh, type Paint, type Part, type Solid, type Vec3 } from './solids';

export const coats = { gold: [0xa9804f, 0xcdb188], brown: [0x5a3820, 0x7a5232] } as const;

/** @param phase of the trot, radians */
export function dog(phase: number, coat: keyof typeof coats, collar?: number): Part[] {
  const [back, belly] = coats[coat].map(linear) as [Vec3, Vec3];
  const limbs: Solid[] = [];
  let lowest = 9;
  const leg = (hip: Vec3, lengths: Vec3, angles: Vec3, radii: readonly [number, number, number, number]) => {
    let from = hip;
    lengths.forEach((length, i) => {
      const to: Vec3 = [from[0] + length * Math.sin(angles[i]!), from[1] - length * Math.cos(angles[i]!), hip[2] * 0.95];
      limbs.push(limb(from, to, radii[i]!, radii[i + 1]!));
      from = to;
    });
    const paw: Vec3 = [from[0] + 0.055, from[1] - 0.005, from[2]];
    limbs.push(limb(from, paw, radii[3] * 1.05, 0.026));
    lowest = Math.min(lowest, paw[1] - 0.026);
  };
  for (const side of [-1, 1]) {
    const fore = phase + (side > 0 ? Math.PI : 0);
    const [a, b] = [0.38 * Math.sin(fore), 0.6 * Math.max(0, Math.cos(fore)) ** 2];
    leg(
      [0.23, 0.47, 0.085 * side],
      [0.18, 0.17, 0.09],
      [a - 0.25, 0.08 + a - b * 0.2, 0.05 + a * 1.05 - b * 1.5],
      [0.075, 0.047, 0.033, 0.028],
    );
    const hind = fore + Math.PI * 0.85;
    const [c, d] = [0.38 * Math.sin(hind), 0.5 * Math.max(0, Math.cos(hind)) ** 2];
    leg([-0.27, 0.49, 0.08 * side], [0.2, 0.18, 0.13], [0.4 + c, c - 0.55 - d * 0.6, 0.12 + c * 0.9 - d * 0.6], [0.1, 0.058, 0.034, 0.027]);
  }
  const head: Vec3 = [0.52, 0.7, 0];
  const wag = Math.sin(phase * 2) * 0.06;
  const trunk = body(
    [
      ...limbs,
      ball([0.16, 0.475, 0], [0.2, 0.175, 0.128], 0.1),
      ball([-0.06, 0.5, 0], [0.24, 0.135, 0.112]),
      ball([-0.26, 0.51, 0], [0.15, 0.13, 0.115]),
      limb([0.24, 0.53, 0], [0.45, 0.675, 0], 0.125, 0.08),
      ball(head, [0.11, 0.085, 0.082]),
      limb([head[0] + 0.05, head[1] - 0.02, 0], [head[0] + 0.175, head[1] - 0.045, 0], 0.057, 0.042),
      limb([-0.36, 0.56, 0], [-0.5, 0.555, wag * 0.5], 0.04, 0.036),
      limb([-0.5, 0.555, wag * 0.5], [-0.63, 0.6, wag], 0.038, 0.032),
      limb([-0.63, 0.6, wag], [-0.72, 0.68, wag * 1.3], 0.032, 0.014),
    ],
    0.05,
    (x, y, z) => 0.003 * noise(x * 22, y * 30, z * 22) + 0.003 * noise(x * 60, y * 80, z * 60),
  );
  const pair = (at: (side: number) => Solid, blend: number) => body([at(1), at(-1)], blend);
  const ears = pair((s) => ball([head[0] - 0.035, head[1] - 0.005, 0.088 * s], [0.048, 0.085, 0.02], 0.25, -0.2 * s), 0.01);
  const eyes = pair((s) => ball([head[0] + 0.075, head[1] + 0.028, 0.052 * s], [0.016, 0.016, 0.016]), 0.005);
  const nose = ball([head[0] + 0.212, head[1] - 0.03, 0], [0.022, 0.02, 0.025]);
  const fur: Paint = (x, y, z, _nx, ny) => {
    const grain = 1 + noise(x * 7, y * 7, z * 7) * 0.15 + noise(x * 40, y * 15, z * 40) * 0.18;
    const t = Math.min(1, Math.max(0, (0.42 - y) * 2.2 + (ny < -0.2 ? 0.35 : 0)));
    return shade([0, 1, 2].map((i) => back[i]! * (1 - t) + belly[i]! * t) as unknown as Vec3, grain);
  };
  const dark: Paint = () => [0.008, 0.007, 0.007];
  const parts: [Solid, number, Paint, number][] = [
    [trunk, 0.0125, fur, 0.9],
    [ears, 0.01, (x, y, z) => shade(back, 0.6 * (1 + 0.2 * noise(x * 40, y * 40, z * 40))), 0.9],
    [nose, 0.007, dark, 0.4],
    [eyes, 0.006, dark, 0.2],
  ];
  if (collar !== undefined) parts.push([ball([0.38, 0.63, 0], [0.035, 0.11, 0.1], -0.6), 0.01, () => linear(collar), 0.6]);
  return parts.map(([solid, cell, paint, roughness]) => {
    const mesh = toMesh(solid, cell, paint);
    for (let i = 1; i < mesh.position.length; i += 3) mesh.position[i]! -= lowest;
    return { ...mesh, roughness };
  });
}
