// Withy Landing as a model, in metres: x to the east, z to the south, y up. The boathouse stands at z > 1, its yard
// north of it as far as a hedge with a gate at z = -13.4, the lane runs east-west behind that, fields and the mere beyond. The jetty lies in the
// southern mere, far to the west; the workshop is a room of its own in the east, where no other camera looks.

import * as THREE from 'three';
import { noise, randomFrom } from './solids';

const random = randomFrom(7);
const layered = (x: number, y: number, o = 0) =>
  noise(x, y, o) * 0.5 + noise(x * 2.1, y * 2.1, o + 7) * 0.3 + noise(x * 4.3, y * 4.3, o + 13) * 0.2;

type Texel = (i: number, j: number) => readonly [number, number, number];

function texture(size: number, texel: Texel, repeatX: number, repeatY: number): THREE.Texture {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = size;
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(size, size);
  for (let j = 0; j < size; j++) for (let i = 0; i < size; i++) image.data.set([...texel(i, j), 255], (j * size + i) * 4);
  context.putImageData(image, 0, 0);
  const made = new THREE.CanvasTexture(canvas);
  made.colorSpace = THREE.SRGBColorSpace;
  made.wrapS = made.wrapT = THREE.RepeatWrapping;
  made.repeat.set(repeatX, repeatY);
  made.anisotropy = 8;
  return made;
}

const grey = (base: readonly [number, number, number], n: number, tint = 1): [number, number, number] => [
  base[0] + n,
  base[1] + n,
  base[2] + n * tint,
];
const grain = (i: number, j: number, coarse: number, fine: number, rough: number, o: number) =>
  layered(i / 100, j / 100, o) * coarse + layered(i / 18, j / 18, o + 4) * fine + (random() - 0.5) * rough;

const surfaces = {
  grass: () =>
    texture(
      1024,
      (i, j) => {
        const n = grain(i, j, 22, 16, 44, 0);
        return [88 + n * 0.9, 101 + n, 62 + n * 0.6];
      },
      30,
      30,
    ),
  gravel: () => texture(1024, (i, j) => grey([150, 143, 128], grain(i, j, 12, 9, 40, 5)), 4, 4),
  lane: () => texture(1024, (i, j) => grey([124, 122, 118], grain(i, j, 12, 6, 28, 9)), 16, 2),
  boards: (r: number) =>
    texture(
      512,
      (i, j) =>
        grey(
          [96, 84, 70],
          (i % 64 < 4 ? -46 : 0) + noise((i >> 6) * 9.1, 1, 1) * 14 + noise(i / 6, j / 90, 3) * 12 + (random() - 0.5) * 12,
          0.8,
        ),
      r,
      1,
    ),
  fence: () =>
    texture(
      512,
      (i, j) =>
        grey(
          [140, 112, 84],
          (i % 64 < 3 ? -50 : 0) + noise((i >> 6) * 9.1, 1, 1) * 16 + noise(i / 6, j / 90, 3) * 14 + (random() - 0.5) * 14,
        ),
      5,
      1,
    ),
  water: () =>
    texture(
      512,
      (i, j) => {
        const n = layered(i / 90, j / 14, 2) * 18 + (random() - 0.5) * 4;
        return [96 + n, 116 + n, 126 + n];
      },
      6,
      6,
    ),
};

const matt = (o: THREE.MeshStandardMaterialParameters) => new THREE.MeshStandardMaterial({ roughness: 0.95, metalness: 0, ...o });

export function buildPlace(): THREE.Group {
  const place = new THREE.Group();
  const add = (mesh: THREE.Mesh, casts = true) => {
    mesh.castShadow = casts;
    mesh.receiveShadow = true;
    place.add(mesh);
    return mesh;
  };
  const box = (size: readonly [number, number, number], at: readonly [number, number, number], material: THREE.Material, turn = 0) => {
    const mesh = add(new THREE.Mesh(new THREE.BoxGeometry(...size), material));
    mesh.position.set(...at);
    mesh.rotation.y = turn;
  };
  const flat = (width: number, depth: number, x: number, z: number, y: number, material: THREE.Material) => {
    const mesh = add(new THREE.Mesh(new THREE.PlaneGeometry(width, depth), material), false);
    mesh.rotation.x = -Math.PI / 2;
    mesh.position.set(x, y, z);
  };
  const foliage = leafMaker(place);

  flat(220, 220, 0, -30, -0.02, matt({ map: surfaces.grass() }));
  flat(19, 15.6, 1, -5.6, 0.004, matt({ map: surfaces.gravel() })); // the yard
  flat(4.6, 3.2, 0.6, -14.4, 0.006, matt({ map: surfaces.gravel() })); // through the gate
  flat(160, 5.4, 0, -17.6, 0.008, matt({ map: surfaces.lane() }));
  flat(120, 60, 30, -78, 0.02, matt({ map: surfaces.water(), roughness: 0.25 })); // the mere
  flat(120, 60, -40, 52, 0.02, matt({ map: surfaces.water(), roughness: 0.25 }));

  // Hedge and gate between yard and lane; the gate stands open, folded back on the yard's side.
  for (let x = -12; x <= -2.4; x += 0.95) foliage([x, 0.5, -13.4], [0.75, 0.6, 0.55], 1300, 0.27);
  for (let x = 3.8; x <= 14; x += 0.95) foliage([x, 0.5, -13.4], [0.75, 0.6, 0.55], 1300, 0.27);
  const wood = matt({ color: 0x7a6b55 });
  for (const x of [-1.8, 3.1]) box([0.22, 1.5, 0.22], [x, 0.75, -13.4], wood);
  for (let i = 0; i < 5; i++) box([0.06, 0.09, 3.0], [3.1, 0.25 + i * 0.23, -11.8], wood);
  for (const z of [-10.4, -13.2]) box([0.08, 1.15, 0.1], [3.1, 0.62, z], wood);

  // Fence on the east, canoe racks on the west of the yard.
  box([0.1, 1.5, 13], [10.6, 0.75, -7], matt({ map: surfaces.fence() }));
  canoeRack(box, place, -8.6, -8.2);

  // The boathouse, tarred boards under a low roof, with its double door.
  const tarred = matt({ map: surfaces.boards(5), color: 0x8f8a80 });
  box([15, 3.4, 7], [0, 1.7, 4.6], tarred);
  box([16, 0.25, 4.6], [0, 4.3, 2.6], matt({ color: 0x4a4540 }));
  place.children.at(-1)!.rotation.x = 0.42;
  box([3.2, 2.6, 0.12], [0.4, 1.3, 1.04], matt({ map: surfaces.boards(2), color: 0x6f8a78 }));
  for (const x of [-4.6, 4.9]) box([1.5, 1.0, 0.1], [x, 1.7, 1.06], matt({ color: 0x20262c, roughness: 0.2 }));

  jetty(box, place, matt({ map: surfaces.boards(2) }));
  foliage([-76, 0.4, 21.6], [3.2, 0.9, 0.7], 2400, 0.24);
  foliage([-63.5, 0.4, 21.8], [3, 0.8, 0.7], 2200, 0.24);
  foliage([-70, 1.5, 74], [60, 3.4, 3], 16000, 0.27);
  workshop(box, place, matt({ map: surfaces.boards(4), color: 0xb7aa94 }), matt({ map: surfaces.fence(), color: 0xc9b28f }));

  // Trees and hedges behind.
  const tree = (x: number, z: number, height: number, radius: number) => {
    const trunk = add(new THREE.Mesh(new THREE.CylinderGeometry(0.14, 0.24, height, 9), matt({ color: 0x5a4a3a })));
    trunk.position.set(x, height / 2, z);
    foliage([x, height + radius * 0.5, z], [radius, radius * 0.85, radius], 7000, 0.25);
  };
  tree(-12.5, -23.5, 2.8, 2.4);
  tree(12.8, -24.5, 2.9, 2.6);
  tree(-3, -31, 2.6, 2.2);
  tree(-15, 2.5, 3, 2.8);
  tree(13.6, 3, 3, 2.6);
  foliage([-26, 1.3, -44], [16, 2.6, 2.2], 14000, 0.26);
  foliage([24, 1.0, -50], [9, 1.8, 2.2], 8000, 0.26);
  foliage([0, 2.2, 26], [40, 4, 2.5], 24000, 0.26);
  foliage([0, 1.6, -118], [90, 4.5, 4], 26000, 0.27);
  return place;
}

type Box = (
  size: readonly [number, number, number],
  at: readonly [number, number, number],
  material: THREE.Material,
  turn?: number,
) => void;

function canoeRack(box: Box, place: THREE.Group, x: number, z: number) {
  const post = matt({ color: 0x6d563e });
  for (const dz of [-1.6, 1.6]) {
    for (const dx of [-0.6, 0.6]) box([0.12, 1.9, 0.12], [x + dx, 0.95, z + dz], post);
    for (const y of [0.55, 1.25, 1.8]) box([1.4, 0.08, 0.1], [x, y, z + dz], post);
  }
  [0x9c3b2e, 0x3f6b4e, 0xb98b3a].forEach((colour, i) => {
    const hull = new THREE.Mesh(new THREE.SphereGeometry(1, 24, 12), matt({ color: colour, roughness: 0.5 }));
    hull.scale.set(0.42, 0.2, 2.3);
    hull.position.set(x, 0.78 + i * 0.66, z);
    hull.castShadow = hull.receiveShadow = true;
    place.add(hull);
  });
}

const jettyAt = { x: -70, from: 17, to: 38 } as const;

/** Boards on posts out into the mere, with steps from the bank, a bench, and a flag that never rests. */
function jetty(box: Box, place: THREE.Group, boards: THREE.Material) {
  const { x, from, to } = jettyAt;
  const post = matt({ color: 0x5d4c3a });
  box([3, 0.05, to - from], [x, 0.03, (from + to) / 2], boards);
  box([7, 0.05, 3], [x, 0.03, to], boards);
  for (let z = from + 3; z <= to; z += 3) for (const dx of [-1.45, 1.45]) box([0.18, 0.9, 0.18], [x + dx, 0.3, z], post);
  // The steps, of stone, and a rail beside them.
  for (let i = 0; i < 3; i++) box([3.6 - i * 0.2, 0.06, 0.7], [x, 0.02 + i * 0.005, from - 0.4 - i * 0.75], matt({ color: 0x9a968c }));
  for (const z of [from - 2, from]) box([0.08, 1, 0.08], [x - 2, 0.5, z], post);
  box([0.06, 0.06, 2.1], [x - 2, 0.98, from - 1], post);
  box([1.5, 0.06, 0.4], [x + 2.6, 0.45, to], post);
  for (const dx of [-0.6, 0.6]) box([0.1, 0.45, 0.36], [x + 2.6 + dx, 0.22, to], post);
  box([0.07, 4, 0.07], [x - 2.9, 2, to], matt({ color: 0xd8d4c8 }));
  box([0.9, 0.55, 0.03], [x - 2.42, 3.6, to], matt({ color: 0xa23b2c }), 0.3);
  // A punt lies alongside.
  const hull = new THREE.Mesh(new THREE.SphereGeometry(1, 24, 12), matt({ color: 0x2f5a58, roughness: 0.5 }));
  hull.scale.set(0.6, 0.16, 2.4);
  hull.position.set(x + 2.6, 0.02, to - 8);
  place.add(hull);
}

/** Where varnish is kept and hulls are mended: a bench, shelves of tins, a canoe on trestles, the only door at the far left. */
function workshop(box: Box, place: THREE.Group, wall: THREE.Material, floor: THREE.Material) {
  const [x, z, wide, deep, high] = [70, 0, 10, 13, 3.6];
  box([wide, 0.04, deep], [x, 0.0, z], floor);
  box([wide, high, 0.15], [x, high / 2, z - deep / 2], wall);
  for (const side of [-1, 1]) box([0.15, high, deep], [x + (side * wide) / 2, high / 2, z], wall);
  box([wide + 0.4, 0.15, deep + 0.4], [x, high + 0.08, z], matt({ color: 0x6a6358 }));
  const wood = matt({ color: 0x8a6f4c });
  const dark = matt({ color: 0x3f3a33 });
  // The door, and a window with the day in it.
  box([1.3, 2.2, 0.08], [x - 3.2, 1.1, z - deep / 2 + 0.12], matt({ color: 0x5f7a68 }));
  box([0.08, 0.08, 0.12], [x - 2.7, 1.05, z - deep / 2 + 0.18], dark);
  box(
    [1.8, 1.1, 0.06],
    [x + 1.6, 1.9, z - deep / 2 + 0.1],
    new THREE.MeshStandardMaterial({ color: 0xdfe8ee, emissive: 0x8fa0aa, emissiveIntensity: 0.5 }),
  );
  for (const dy of [0, 0.55, -0.55]) box([1.9, 0.06, 0.08], [x + 1.6, 1.9 + dy, z - deep / 2 + 0.14], wood);
  // Shelves of tins along the right wall.
  for (const y of [0.5, 1.1, 1.7]) {
    box([0.5, 0.05, 6], [x + wide / 2 - 0.4, y, z - 1.5], wood);
    for (let i = 0; i < 12; i++) {
      const tin = new THREE.Mesh(
        new THREE.CylinderGeometry(0.12, 0.12, 0.26, 16),
        matt({ color: [0xb98b3a, 0x7d3b2e, 0x40606b, 0xc9c3b2][(i * 7 + Math.round(y * 10)) % 4]!, roughness: 0.4 }),
      );
      tin.position.set(x + wide / 2 - 0.42, y + 0.16, z - 4.2 + i * 0.48);
      place.add(tin);
    }
  }
  // The bench on the left, with a vice and what lies about.
  box([0.9, 0.08, 4], [x - wide / 2 + 0.6, 0.92, z - 2], wood);
  for (const dz of [-3.7, -0.3]) box([0.1, 0.9, 0.1], [x - wide / 2 + 0.95, 0.45, z + dz], wood);
  box([0.22, 0.2, 0.3], [x - wide / 2 + 0.8, 1.06, z - 0.8], dark);
  box([0.3, 0.12, 0.5], [x - wide / 2 + 0.5, 1.02, z - 2.6], matt({ color: 0x9c3b2e }));
  // Lamps under the roof, which are out by night.
  const lamps = new THREE.Group();
  lamps.name = 'lamps';
  for (const dz of [-3.5, 1.5]) {
    const lamp = new THREE.PointLight(0xfff2dc, 34, 16, 1.6);
    lamp.position.set(x, high - 0.4, z + dz);
    lamps.add(lamp);
  }
  place.add(lamps);
  // A canoe on two trestles, bottom up.
  for (const dz of [-1.1, 1.1]) {
    box([1, 0.08, 0.12], [x + 1.2, 0.72, z - 2.2 + dz], wood);
    for (const dx of [-0.4, 0.4]) box([0.08, 0.72, 0.08], [x + 1.2 + dx, 0.36, z - 2.2 + dz], wood);
  }
  const hull = new THREE.Mesh(new THREE.SphereGeometry(1, 24, 12), matt({ color: 0x3f6b4e, roughness: 0.35 }));
  hull.scale.set(0.42, 0.22, 2.3);
  hull.position.set(x + 1.2, 0.95, z - 2.2);
  hull.castShadow = hull.receiveShadow = true;
  place.add(hull);
}

function leafMaker(place: THREE.Group) {
  const leaf = new THREE.PlaneGeometry(0.15, 0.1);
  const rnd = randomFrom(11);
  return (at: readonly [number, number, number], radii: readonly [number, number, number], count: number, hue: number) => {
    const mesh = new THREE.InstancedMesh(leaf, new THREE.MeshStandardMaterial({ roughness: 0.9, side: THREE.DoubleSide }), count);
    const dummy = new THREE.Object3D();
    const colour = new THREE.Color();
    const big = Math.max(1, Math.max(...radii) / 8);
    for (let i = 0; i < count; i++) {
      let [a, b, c, l] = [0, 0, 0, 2];
      while (l > 1 || l === 0)
        [a, b, c, l] = ((p: number, q: number, r: number): [number, number, number, number] => [p, q, r, Math.hypot(p, q, r)])(
          rnd() * 2 - 1,
          rnd() * 2 - 1,
          rnd() * 2 - 1,
        );
      const s = (Math.pow(l, 0.45) / l) * (0.75 + 0.35 * noise(a * 3 + at[0], b * 3, c * 3));
      dummy.position.set(at[0] + a * s * radii[0], Math.max(0.03, at[1] + b * s * radii[1]), at[2] + c * s * radii[2]);
      dummy.rotation.set(rnd() * 6, rnd() * 6, rnd() * 6);
      dummy.scale.setScalar((0.7 + rnd() * 0.9) * big);
      dummy.updateMatrix();
      mesh.setMatrixAt(i, dummy.matrix);
      mesh.setColorAt(i, colour.setHSL(hue + (rnd() - 0.5) * 0.04, 0.26 + rnd() * 0.1, 0.13 + rnd() * 0.11));
    }
    mesh.castShadow = mesh.receiveShadow = true;
    place.add(mesh);
  };
}
