// A small modeller for soft bodies: primitives are distance functions, a union blends them, and surface nets turn
// the result into a triangle mesh with smooth normals and a colour per vertex. Lengths are metres.

export type Vec3 = readonly [number, number, number];
export type Colour = readonly [number, number, number];
export type Field = (x: number, y: number, z: number) => number;
export type Solid = { readonly distance: Field; readonly low: Vec3; readonly high: Vec3 };
/** Linear colour of the surface at a point with this normal. */
export type Paint = (x: number, y: number, z: number, nx: number, ny: number, nz: number) => Colour;
export type Mesh = { position: Float32Array; normal: Float32Array; colour: Float32Array; index: Uint32Array };

/** A repeatable source of numbers in 0..1. */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0 || 1;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

function latticeValue(x: number, y: number, z: number): number {
  let n = (x * 374761393 + y * 668265263 + z * 2147483647) | 0;
  n = Math.imul(n ^ (n >>> 13), 1274126177);
  return ((n ^ (n >>> 16)) >>> 0) / 4294967295;
}

const mix = (a: number, b: number, t: number) => a + (b - a) * t;
const ease = (t: number) => t * t * (3 - 2 * t);

/** Value noise in −1..1. */
export function noise(x: number, y: number, z: number): number {
  const [X, Y, Z] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [u, v, w] = [ease(x - X), ease(y - Y), ease(z - Z)];
  const row = (j: number, k: number) => mix(latticeValue(X, Y + j, Z + k), latticeValue(X + 1, Y + j, Z + k), u);
  return mix(mix(row(0, 0), row(1, 0), v), mix(row(0, 1), row(1, 1), v), w) * 2 - 1;
}

/** A capsule from `a` to `b` whose radius goes from `r1` to `r2`. */
export function limb(a: Vec3, b: Vec3, r1: number, r2: number): Solid {
  const [bx, by, bz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const length2 = bx * bx + by * by + bz * bz;
  const taper = r1 - r2;
  const side2 = length2 - taper * taper;
  const inverse = 1 / length2;
  const distance: Field = (px, py, pz) => {
    const [ax, ay, az] = [px - a[0], py - a[1], pz - a[2]];
    const y = ax * bx + ay * by + az * bz;
    const z = y - length2;
    const [qx, qy, qz] = [ax * length2 - bx * y, ay * length2 - by * y, az * length2 - bz * y];
    const x2 = qx * qx + qy * qy + qz * qz;
    const k = Math.sign(taper) * taper * taper * x2;
    if (Math.sign(z) * side2 * z * z * length2 > k) return Math.sqrt(x2 + z * z * length2) * inverse - r2;
    if (Math.sign(y) * side2 * y * y * length2 < k) return Math.sqrt(x2 + y * y * length2) * inverse - r1;
    return (Math.sqrt(x2 * side2 * inverse) + y * taper) * inverse - r1;
  };
  const r = Math.max(r1, r2);
  const bound = (pick: (p: number, q: number) => number, by2: number): Vec3 => [
    pick(a[0], b[0]) + by2,
    pick(a[1], b[1]) + by2,
    pick(a[2], b[2]) + by2,
  ];
  return { distance, low: bound(Math.min, -r), high: bound(Math.max, r) };
}

/** An ellipsoid, pitched about z, then rolled about x (radians). */
export function ball(centre: Vec3, radii: Vec3, pitch = 0, roll = 0): Solid {
  const [cp, sp, cr, sr] = [Math.cos(pitch), Math.sin(pitch), Math.cos(roll), Math.sin(roll)];
  const distance: Field = (px, py, pz) => {
    const [x, y, z] = [px - centre[0], py - centre[1], pz - centre[2]];
    const [y1, z1] = [y * cr + z * sr, -y * sr + z * cr];
    const [a, b, c] = [(x * cp + y1 * sp) / radii[0], (-x * sp + y1 * cp) / radii[1], z1 / radii[2]];
    const outer = Math.hypot(a, b, c);
    const inner = Math.hypot(a / radii[0], b / radii[1], c / radii[2]);
    return inner < 1e-9 ? -Math.min(...radii) : (outer * (outer - 1)) / inner;
  };
  const r = Math.max(...radii);
  return {
    distance,
    low: [centre[0] - r, centre[1] - r, centre[2] - r],
    high: [centre[0] + r, centre[1] + r, centre[2] + r],
  };
}

/** All parts as one body; joints are rounded over `blend` metres, `bump` roughens the skin. */
export function body(parts: readonly Solid[], blend: number, bump?: Field): Solid {
  const low = [0, 1, 2].map((i) => Math.min(...parts.map((p) => p.low[i]!))) as unknown as Vec3;
  const high = [0, 1, 2].map((i) => Math.max(...parts.map((p) => p.high[i]!))) as unknown as Vec3;
  const distance: Field = (x, y, z) => {
    let d = 1e9;
    for (const part of parts) {
      const other = part.distance(x, y, z);
      const h = Math.max(blend - Math.abs(d - other), 0) / blend;
      d = Math.min(d, other) - h * h * blend * 0.25;
    }
    return bump ? d + bump(x, y, z) : d;
  };
  return { distance, low, high };
}

const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((t) => [t & 1, (t >> 1) & 1, t >> 2] as const);
const edges = [
  [0, 1],
  [2, 3],
  [4, 5],
  [6, 7],
  [0, 2],
  [1, 3],
  [4, 6],
  [5, 7],
  [0, 4],
  [1, 5],
  [2, 6],
  [3, 7],
] as const;

/** Surface nets over a grid of `cell` metres. */
export function toMesh(solid: Solid, cell: number, paint: Paint): Mesh {
  const low = solid.low.map((v) => v - 2.5 * cell);
  const [nx, ny, nz] = [0, 1, 2].map((i) => Math.ceil((solid.high[i]! - low[i]!) / cell) + 6) as [number, number, number];
  const at = (i: number, j: number, k: number) => i + nx * (j + ny * k);
  const grid = new Float32Array(nx * ny * nz);
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++) grid[at(i, j, k)] = solid.distance(low[0]! + i * cell, low[1]! + j * cell, low[2]! + k * cell);

  const vertexOf = new Int32Array(grid.length).fill(-1);
  const points: number[] = [];
  for (let k = 0; k < nz - 1; k++)
    for (let j = 0; j < ny - 1; j++)
      for (let i = 0; i < nx - 1; i++) {
        const values = corners.map(([a, b, c]) => grid[at(i + a, j + b, k + c)]!);
        const inside = values.filter((v) => v < 0).length;
        if (inside === 0 || inside === 8) continue;
        let [x, y, z, n] = [0, 0, 0, 0];
        for (const [a, b] of edges) {
          const [va, vb] = [values[a]!, values[b]!];
          if (va < 0 === vb < 0) continue;
          const t = va / (va - vb);
          x += mix(corners[a]![0], corners[b]![0], t);
          y += mix(corners[a]![1], corners[b]![1], t);
          z += mix(corners[a]![2], corners[b]![2], t);
          n++;
        }
        vertexOf[at(i, j, k)] = points.length / 3;
        points.push(low[0]! + (i + x / n) * cell, low[1]! + (j + y / n) * cell, low[2]! + (k + z / n) * cell);
      }

  const index: number[] = [];
  const quad = (a: number, b: number, c: number, d: number, flip: boolean) => {
    if (a < 0 || b < 0 || c < 0 || d < 0) return;
    if (flip) index.push(a, b, c, a, c, d);
    else index.push(a, c, b, a, d, c);
  };
  const v = (i: number, j: number, k: number) => vertexOf[at(i, j, k)]!;
  for (let k = 1; k < nz - 1; k++)
    for (let j = 1; j < ny - 1; j++)
      for (let i = 1; i < nx - 1; i++) {
        const here = grid[at(i, j, k)]! < 0;
        if (here !== grid[at(i + 1, j, k)]! < 0) quad(v(i, j - 1, k - 1), v(i, j, k - 1), v(i, j, k), v(i, j - 1, k), here);
        if (here !== grid[at(i, j + 1, k)]! < 0) quad(v(i - 1, j, k - 1), v(i, j, k - 1), v(i, j, k), v(i - 1, j, k), !here);
        if (here !== grid[at(i, j, k + 1)]! < 0) quad(v(i - 1, j - 1, k), v(i, j - 1, k), v(i, j, k), v(i - 1, j, k), here);
      }

  const normal = new Float32Array(points.length);
  const colour = new Float32Array(points.length);
  const e = cell * 0.6;
  for (let t = 0; t < points.length; t += 3) {
    const [x, y, z] = [points[t]!, points[t + 1]!, points[t + 2]!];
    const gx = solid.distance(x + e, y, z) - solid.distance(x - e, y, z);
    const gy = solid.distance(x, y + e, z) - solid.distance(x, y - e, z);
    const gz = solid.distance(x, y, z + e) - solid.distance(x, y, z - e);
    const l = Math.hypot(gx, gy, gz) || 1;
    normal.set([gx / l, gy / l, gz / l], t);
    colour.set(paint(x, y, z, gx / l, gy / l, gz / l), t);
  }
  return { position: new Float32Array(points), normal, colour, index: new Uint32Array(index) };
}

/** An sRGB number such as 0x26304a as linear red, green, blue. */
export function linear(hex: number): Colour {
  const part = (shift: number) => {
    const v = ((hex >> shift) & 255) / 255;
    return v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
  };
  return [part(16), part(8), part(0)];
}

/** A colour with a weave of its own. */
export const woven =
  (colour: Colour, amount: number, grain: number): Paint =>
  (x, y, z) =>
    shade(
      colour,
      1 + amount * noise(x * grain, y * grain, z * grain) + amount * 0.6 * noise(x * grain * 3.1, y * grain * 3.1, z * grain * 3.1),
    );

export const shade = (c: Colour, by: number): Colour => [c[0] * by, c[1] * by, c[2] * by];

export type Part = Mesh & { readonly roughness: number; readonly glossy?: boolean };
