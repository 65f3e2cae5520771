// What stands there beside people and vehicles: a parcel, a sign, words on plates, the shadow where something touches the ground.

import * as THREE from 'three';
import type { FigureSpec } from './workshop';

/** Words on a plate of their own, in lines; what throws light back is as bright by night as by day. */
export function written(
  lines: readonly string[],
  [w, h]: readonly [number, number],
  ink: string,
  ground: string | undefined,
  isNight: boolean,
): THREE.Mesh {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [1024, Math.round((1024 * h) / w)];
  const draw = canvas.getContext('2d')!;
  if (ground) {
    draw.fillStyle = ground;
    draw.fillRect(0, 0, canvas.width, canvas.height);
  }
  draw.fillStyle = ink;
  draw.textAlign = 'center';
  draw.textBaseline = 'middle';
  const high = canvas.height / lines.length;
  lines.forEach((line, i) => {
    draw.font = `bold ${high * 0.82}px "Liberation Sans", Arial, sans-serif`;
    draw.letterSpacing = `${high * 0.06}px`;
    draw.fillText(line, canvas.width / 2, high * (i + 0.54), canvas.width * 0.95);
  });
  const texture = new THREE.CanvasTexture(canvas);
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.anisotropy = 8;
  const bright = isNight ? 0.62 : 0.9;
  const material = new THREE.MeshBasicMaterial({ map: texture, transparent: !ground, toneMapped: false });
  material.color.setScalar(bright);
  return new THREE.Mesh(new THREE.PlaneGeometry(w, h, 4, 4), material);
}

export function addParcel(group: THREE.Group, isNight: boolean) {
  const card = new THREE.MeshStandardMaterial({ color: isNight ? 0xb8b8b8 : 0xb98850, roughness: 0.9 });
  const tape = new THREE.MeshStandardMaterial({ color: isNight ? 0xd0d0d0 : 0xd8c08c, roughness: 0.5 });
  const box = new THREE.Mesh(new THREE.BoxGeometry(0.6, 0.42, 0.46), card);
  box.position.y = 0.21;
  const band = new THREE.Mesh(new THREE.BoxGeometry(0.605, 0.425, 0.06), tape);
  band.position.y = 0.21;
  for (const part of [box, band]) part.castShadow = part.receiveShadow = true;
  group.add(box, band);
}

/** A board on two legs, written on one side. */
export function addSign(group: THREE.Group, words: string, isNight: boolean) {
  const board = new THREE.Mesh(new THREE.BoxGeometry(0.05, 1.15, 2.1), new THREE.MeshStandardMaterial({ color: 0xf2f2ee, roughness: 0.8 }));
  board.position.y = 1.25;
  const lines = words.split(' ').reduce<string[]>((all, word) => {
    const last = all.at(-1);
    return last !== undefined && last.length + word.length < 14 ? [...all.slice(0, -1), `${last} ${word}`] : [...all, word];
  }, []);
  const front = written(lines, [2, 1.1], '#141414', '#f4f4f0', isNight);
  front.position.set(0.03, 1.25, 0);
  front.rotation.y = Math.PI / 2;
  const wood = new THREE.MeshStandardMaterial({ color: 0x6b5236, roughness: 0.9 });
  const legs = [-0.8, 0.8].map((z) => {
    const leg = new THREE.Mesh(new THREE.BoxGeometry(0.07, 1.3, 0.07), wood);
    leg.position.set(-0.04, 0.65, z);
    return leg;
  });
  for (const part of [board, ...legs]) part.castShadow = part.receiveShadow = true;
  group.add(board, front, ...legs);
}

export function contactShadow(kind: FigureSpec['kind']): THREE.Mesh {
  const isLong = kind === 'car' || kind === 'parcel' || kind === 'sign';
  const fall = isLong ? 'vec2 q=abs(u);float d=smoothstep(1.,.72,q.x)*smoothstep(1.,.6,q.y);' : 'float d=smoothstep(0.,1.,1.-length(u));';
  const shader = new THREE.ShaderMaterial({
    transparent: true,
    depthWrite: false,
    uniforms: { a: { value: isLong ? 0.75 : 0.38 } },
    vertexShader: 'varying vec2 u;void main(){u=uv*2.-1.;gl_Position=projectionMatrix*modelViewMatrix*vec4(position,1.);}',
    fragmentShader: `varying vec2 u;uniform float a;void main(){${fall}gl_FragColor=vec4(0,0,0,a*d);}`,
  });
  const mesh = new THREE.Mesh(new THREE.PlaneGeometry(1, 1), shader);
  mesh.rotation.x = -Math.PI / 2;
  mesh.position.y = 0.015;
  const [along, across] = ({ person: [0.85, 0.6], dog: [1.2, 0.5], car: [4.6, 2.1], parcel: [0.75, 0.6], sign: [0.3, 2] } as const)[kind];
  mesh.scale.set(along, across, 1);
  mesh.name = 'contact';
  return mesh;
}
