// The canoes of the landing: three on the rack and up to nine on the grass before it, painted into the empty view so that they can be counted.

import sharp from 'sharp';
import type { Light, Pixels } from './sheets';

export const maxCanoes = 12;
const onRack = 3;

type Canoe = {
  readonly x: number;
  readonly y: number;
  readonly half: number;
  readonly thick: number;
  readonly turn: number;
  readonly paint: string;
};

const paints = ['#b7191c', '#d8a21c', '#2456b4'] as const;
/** In a picture 960 wide; the rack's own are painted over, so that no two neighbours are of one colour. */
const rack: readonly Canoe[] = [
  { x: 427, y: 156, half: 150, thick: 15, turn: -2.6, paint: paints[1] },
  { x: 428, y: 206, half: 148, thick: 15, turn: -4.6, paint: paints[2] },
  { x: 429, y: 254, half: 146, thick: 15, turn: -6, paint: paints[0] },
];
const grass: readonly Canoe[] = Array.from({ length: maxCanoes - onRack }, (_, i) => {
  const near = i / 8;
  return { x: 118 - near * 6, y: 168 + i * 19 + near * 14, half: 84 + near * 26, thick: 6.5 + near * 1.5, turn: -5, paint: paints[i % 3]! };
});

/** By infrared they are paler than the grass, and have no colour. */
const byInfrared = '#c9c9c9';

/** The view with so many at home. */
export async function withCanoes(view: Pixels, home: number, light: Light): Promise<Pixels> {
  const there = [...rack, ...grass].slice(0, home);
  const scale = view.width / 960;
  const drawn = there.map(({ x, y, half, thick, turn, paint }) => {
    const colour = light === 'night' ? byInfrared : paint;
    return `<g transform="rotate(${turn} ${x} ${y})"><ellipse cx="${x}" cy="${y}" rx="${half}" ry="${thick}" fill="${colour}"/><ellipse cx="${x}" cy="${y - thick * 0.35}" rx="${half * 0.9}" ry="${thick * 0.3}" fill="#fff" opacity=".12"/></g>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${view.width}" height="${view.height}"><g transform="scale(${scale})">${drawn.join('')}</g></svg>`;
  const raw = { width: view.width, height: view.height, channels: 3 as const };
  const data = await sharp(Buffer.from(view.data), { raw })
    .composite([{ input: Buffer.from(svg) }])
    .removeAlpha()
    .raw()
    .toBuffer();
  return { ...view, data };
}
