// Runs in the browser: sets light and camera, and renders backgrounds and single figures on request.
// All cameras have one mounting (height, tilt, lens), so that one set of figures serves every view.

import * as THREE from 'three';
import { farMetres, mounting, type Pose } from '../../src/cameras/view';
import { car, models } from './cars';
import { coats, dog } from './dogs';
import { outfits, person } from './people';
import { addParcel, addSign, contactShadow, written } from './objects';
import { buildPlace } from './place';
import type { Part } from './solids';
import type { FigureSpec, Light, SpriteShot, WorkshopApi } from './workshop';

const width = 960;
const height = 540;

const renderer = new THREE.WebGLRenderer({ antialias: true, alpha: true, preserveDrawingBuffer: true });
renderer.shadowMap.enabled = true;
renderer.shadowMap.type = THREE.PCFSoftShadowMap;
renderer.toneMapping = THREE.ACESFilmicToneMapping;
document.body.appendChild(renderer.domElement);

const scene = new THREE.Scene();
const place = buildPlace();
const figures = new THREE.Group();
scene.add(place, figures);

// The eye stays at the origin looking north; to look from elsewhere the place is moved under it.
const camera = new THREE.PerspectiveCamera(mounting.fieldDegrees, width / height, 0.1, 260);
camera.position.set(0, mounting.heightMetres, 0);
camera.rotation.x = (-mounting.tiltDegrees * Math.PI) / 180;

const sky = new THREE.HemisphereLight(0xcfe0f2, 0x8a8570, 1.35);
const sun = new THREE.DirectionalLight(0xfff0d8, 2.3);
sun.shadow.bias = -0.0006;
sun.shadow.normalBias = 0.025;
sun.shadow.radius = 3;
sun.shadow.camera.near = 1;
sun.shadow.camera.far = 70;
// Wider and flatter than a real lamp, so that a person at the edge of the picture is still lit.
const infrared = new THREE.SpotLight(0xffffff, 0, 0, 0.8, 0.6, 0.95);
infrared.shadow.mapSize.set(2048, 2048);
infrared.shadow.bias = -0.001;
infrared.shadow.radius = 3;
infrared.position.set(0.15, mounting.heightMetres + 0.2, 0);
infrared.target.position.set(0, 0.4, -20);
scene.add(sky, sun, sun.target, infrared, infrared.target);
scene.fog = new THREE.Fog(0xc4ccd2, 40, 190);

let light: Light = 'day';
const gloss = reflections();

function setLight(next: Light) {
  light = next;
  const night = next === 'night';
  sun.intensity = night ? 0 : 2.3;
  sky.intensity = night ? 0.12 : 1.35;
  infrared.intensity = night ? 48 : 0;
  sun.castShadow = !night;
  infrared.castShadow = night;
  place.getObjectByName('lamps')!.visible = !night;
  scene.fog!.color.set(night ? 0x050505 : 0xc4ccd2);
  scene.background = new THREE.Color(night ? 0x030303 : 0xc8d2da);
}

/** The sun's shadow map, spread over `reach` metres around a point. */
function aimSun(at: readonly [number, number, number], from: readonly [number, number, number], reach: number, mapSize: number) {
  sun.position.set(at[0] + from[0], at[1] + from[1], at[2] + from[2]);
  sun.target.position.set(...at);
  const c = sun.shadow.camera;
  c.left = c.bottom = -reach;
  c.right = c.top = reach;
  c.updateProjectionMatrix();
  sun.shadow.map?.dispose();
  sun.shadow.map = null;
  sun.shadow.mapSize.set(mapSize, mapSize);
}

function reflections(): THREE.Texture {
  const world = new THREE.Scene();
  const shader = new THREE.ShaderMaterial({
    side: THREE.BackSide,
    vertexShader: 'varying vec3 p;void main(){p=position;gl_Position=projectionMatrix*modelViewMatrix*vec4(position,1.);}',
    fragmentShader: `varying vec3 p; void main(){ float y = normalize(p).y;
      vec3 c = y > 0. ? mix(vec3(.85,.9,.95), vec3(.42,.58,.82), smoothstep(0.,.6,y)) : mix(vec3(.28,.28,.25), vec3(.2,.2,.19), -y);
      if (y > 0. && y < .12 + .05*sin(p.x*.3)) c = vec3(.12,.15,.1); gl_FragColor = vec4(c, 1.); }`,
  });
  world.add(new THREE.Mesh(new THREE.SphereGeometry(50, 32, 16), shader));
  return new THREE.PMREMGenerator(renderer).fromScene(world).texture;
}

/** Cloth and skin throw infrared back much more evenly than visible light. */
function asSeenByInfrared(colour: Float32Array, glossy: boolean) {
  for (let i = 0; i < colour.length; i += 3) {
    const l = colour[i]! * 0.4 + colour[i + 1]! * 0.45 + colour[i + 2]! * 0.15;
    colour.fill(glossy ? l * 0.9 + 0.01 : l < 0.012 ? l : 0.1 + 0.85 * Math.pow(l, 0.6), i, i + 3);
  }
}

function toThree(part: Part): THREE.Mesh {
  if (light === 'night') asSeenByInfrared(part.colour, part.glossy ?? false);
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(part.position, 3));
  geometry.setAttribute('normal', new THREE.BufferAttribute(part.normal, 3));
  geometry.setAttribute('color', new THREE.BufferAttribute(part.colour, 3));
  geometry.setIndex(new THREE.BufferAttribute(part.index, 1));
  const shine = part.glossy ? { envMap: gloss, envMapIntensity: light === 'night' ? 0.12 : 0.9 } : {};
  const mesh = new THREE.Mesh(geometry, new THREE.MeshStandardMaterial({ vertexColors: true, roughness: part.roughness, ...shine }));
  mesh.castShadow = mesh.receiveShadow = true;
  return mesh;
}

let last: { key: string; group: THREE.Group } | undefined;

function build(figure: FigureSpec): THREE.Group {
  const key = JSON.stringify([light, figure]);
  if (last?.key === key) return last.group;
  const group = new THREE.Group();
  if (figure.kind === 'person') person(figure.phase, outfits[figure.look as keyof typeof outfits]).forEach((p) => group.add(toThree(p)));
  else if (figure.kind === 'dog') dog(figure.phase, figure.look as keyof typeof coats, 0xb02020).forEach((p) => group.add(toThree(p)));
  else if (figure.kind === 'parcel') addParcel(group, light === 'night');
  else if (figure.kind === 'sign') addSign(group, figure.letters ?? '', light === 'night');
  else addCar(group, figure.look as keyof typeof models, figure);
  group.add(contactShadow(figure.kind));
  last = { key, group };
  return group;
}

function addCar(group: THREE.Group, model: keyof typeof models, { paint = 0x7c2424, plate, letters }: FigureSpec) {
  const made = car(model, paint);
  if (plate)
    for (const { x, y, faces } of made.plates) {
      const mesh = written([plate], [0.56, 0.125], '#101010', faces > 0 ? '#f6f6f2' : '#f2d64a', light === 'night');
      mesh.position.set(x, y, 0);
      mesh.rotation.y = (Math.PI / 2) * faces;
      group.add(mesh);
    }
  if (letters)
    for (const side of [1, -1]) {
      const isPale = (paint >> 8) % 256 > 150;
      const mesh = written([letters], [2.1, 0.34], isPale ? '#12284a' : '#f2f0e6', undefined, light === 'night');
      mesh.position.set(made.flank.x, made.flank.y, made.flank.z * side);
      mesh.rotation.y = side > 0 ? 0 : Math.PI;
      group.add(mesh);
    }
  made.parts.forEach((p) => group.add(toThree(p)));
  const tyre = new THREE.MeshStandardMaterial({ color: 0x17171a, roughness: 0.9 });
  const rim = new THREE.MeshStandardMaterial({ color: 0xb4b6ba, roughness: 0.35, metalness: 0.5, envMap: gloss });
  const hub = new THREE.MeshStandardMaterial({ color: 0x101012, roughness: 0.95 });
  for (const { x, z, radius } of made.wheels)
    for (const side of [-1, 1]) {
      const wheel = new THREE.Group();
      wheel.position.set(x, radius, z * side);
      wheel.rotation.x = (Math.PI / 2) * side;
      wheel.add(new THREE.Mesh(new THREE.CylinderGeometry(radius, radius, 0.2, 32), tyre));
      wheel.add(new THREE.Mesh(new THREE.CylinderGeometry(radius * 0.66, radius * 0.66, 0.205, 28), hub));
      for (let i = 0; i < 5; i++) {
        const spoke = new THREE.Mesh(new THREE.BoxGeometry(radius * 0.62, 0.012, radius * 0.2), rim);
        const turn = (i / 5) * 2 * Math.PI;
        spoke.position.set(Math.cos(turn) * radius * 0.33, 0.105, Math.sin(turn) * radius * 0.33);
        spoke.rotation.y = -turn;
        wheel.add(spoke);
      }
      const ring = new THREE.Mesh(new THREE.TorusGeometry(radius * 0.64, 0.018, 8, 28), rim);
      ring.rotation.x = Math.PI / 2;
      ring.position.y = 0.104;
      wheel.add(ring);
      wheel.traverse((o) => void (o.castShadow = o.receiveShadow = true));
      group.add(wheel);
    }
  for (const side of [-1, 1]) {
    const mirror = new THREE.Mesh(
      new THREE.SphereGeometry(0.1, 14, 10),
      new THREE.MeshStandardMaterial({ color: new THREE.Color(...made.mirror.colour), roughness: 0.3, envMap: gloss }),
    );
    mirror.scale.set(0.6, 0.75, 1);
    mirror.position.set(made.mirror.x, made.mirror.y, made.mirror.z * side * 0.97);
    mirror.castShadow = true;
    group.add(mirror);
  }
}

/** The figure's own box in picture pixels, shadows left out. */
function boxOf(group: THREE.Group): [number, number, number, number] {
  const point = new THREE.Vector3();
  const box: [number, number, number, number] = [1e9, 1e9, -1e9, -1e9];
  group.updateMatrixWorld(true);
  camera.updateMatrixWorld(true);
  group.traverse((o) => {
    if (!(o instanceof THREE.Mesh) || o.name === 'contact') return;
    const points = o.geometry.attributes.position;
    for (let k = 0; k < points.count; k += Math.max(1, Math.floor(points.count / 800))) {
      point.fromBufferAttribute(points, k).applyMatrix4(o.matrixWorld).project(camera);
      const [x, y] = [((point.x + 1) / 2) * width, ((1 - point.y) / 2) * height];
      box[0] = Math.min(box[0], x);
      box[1] = Math.min(box[1], y);
      box[2] = Math.max(box[2], x);
      box[3] = Math.max(box[3], y);
    }
  });
  return box;
}

function render(w: number, h: number): string {
  renderer.setPixelRatio(1);
  renderer.setSize(w, h, false);
  renderer.render(scene, camera);
  return renderer.domElement.toDataURL('image/png');
}

const shadowCatcher = new THREE.Mesh(new THREE.PlaneGeometry(80, 80), new THREE.ShadowMaterial({ opacity: 0.58 }));
shadowCatcher.rotation.x = -Math.PI / 2;
shadowCatcher.position.y = 0.006;
shadowCatcher.receiveShadow = true;
shadowCatcher.visible = false;
scene.add(shadowCatcher);

/** Distance along the view as a grey: black at the eye, white at `farMetres` and beyond. */
const depthMaterial = new THREE.ShaderMaterial({
  side: THREE.DoubleSide,
  uniforms: { far: { value: farMetres } },
  vertexShader: `varying float d; void main(){ vec4 p = vec4(position, 1.);
    #ifdef USE_INSTANCING
    p = instanceMatrix * p;
    #endif
    p = modelViewMatrix * p; d = -p.z; gl_Position = projectionMatrix * p; }`,
  fragmentShader: 'varying float d; uniform float far; void main(){ gl_FragColor = vec4(vec3(min(1., d / far)), 1.); }',
});

function lookFrom(pose: Pose) {
  figures.clear();
  const turn = (pose.headingDegrees * Math.PI) / 180;
  place.rotation.y = turn;
  place.position.set(-pose.x, 0, -pose.z).applyAxisAngle(new THREE.Vector3(0, 1, 0), turn);
}

const api: WorkshopApi = {
  background(pose, of, scale) {
    setLight(of);
    aimSun([1, 0, -13], [-10, 15, 17], 26, 4096);
    lookFrom(pose);
    return render(width * scale, height * scale);
  },
  depth(pose) {
    lookFrom(pose);
    const { background, fog } = scene;
    Object.assign(scene, { overrideMaterial: depthMaterial, background: new THREE.Color(0xffffff), fog: null });
    const png = render(width, height);
    Object.assign(scene, { overrideMaterial: null, background, fog });
    return png;
  },
  sprite(figure, of, scale): SpriteShot {
    setLight(of);
    const [x, z] = mounting.spriteAt;
    aimSun([x, 0.5, z], [-10, 15, 17], 5, 1024);
    const group = build(figure);
    group.position.set(x, 0, z);
    group.rotation.y = figure.heading;
    figures.clear();
    figures.add(group);
    place.visible = false;
    shadowCatcher.visible = true;
    (shadowCatcher.material as THREE.ShadowMaterial).opacity = of === 'night' ? 0.7 : 0.58;
    const { background, fog } = scene;
    scene.background = scene.fog = null;
    renderer.setClearColor(0, 0);
    const box = boxOf(group);
    const size = Math.max(box[2] - box[0], box[3] - box[1]);
    const [padX, padY] = figure.kind === 'person' ? [0.75, 0.25] : [0.5, 0.3];
    const [left, top] = [Math.max(-200, Math.floor(box[0] - size * 0.35)), Math.floor(box[1] - 6)];
    const [w, h] = [Math.ceil(box[2] + size * padX) - left, Math.ceil(box[3] + size * padY) - top];
    camera.setViewOffset(width, height, left, top, w, h);
    const png = render(w * scale, h * scale);
    camera.clearViewOffset();
    place.visible = true;
    shadowCatcher.visible = false;
    Object.assign(scene, { background, fog });
    return { png, left, top, width: w, height: h, box };
  },
};
Object.assign(window, { workshop: api });
