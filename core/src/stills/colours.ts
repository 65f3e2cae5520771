// Names of colours, of single pixels and of parts of a picture.

import { colourNames, onPicture, type Box, type ClassName, type ColourName, type Looks } from '../boxes';

/** The name that people would give a colour. @param r, g, b 0..255 */
export function colourOfRgb(r: number, g: number, b: number): ColourName {
  const max = Math.max(r, g, b);
  const min = Math.min(r, g, b);
  const chroma = max - min;
  const value = max / 255;
  const saturation = max === 0 ? 0 : chroma / max;
  if (value < 0.2) return 'black';
  if (saturation < 0.15 || chroma < 18) return value < 0.3 ? 'black' : value > 0.78 ? 'white' : 'grey';
  const sixth = max === r ? (((g - b) / chroma) % 6) + (g < b ? 6 : 0) : max === g ? (b - r) / chroma + 2 : (r - g) / chroma + 4;
  const hue = sixth * 60;
  if (hue < 14 || hue >= 345) return saturation < 0.5 && value > 0.75 ? 'pink' : 'red';
  if (hue < 45) return value < 0.62 ? 'brown' : 'orange';
  if (hue < 70) return value < 0.4 ? 'brown' : 'yellow';
  if (hue < 165) return 'green';
  if (hue < 255) return 'blue';
  if (hue < 290) return 'purple';
  return value > 0.75 && saturation < 0.65 ? 'pink' : hue < 320 ? 'purple' : 'red';
}

const minShare = 0.3;

/**
 * The colour that most of a part of a picture has; undefined where none has near a third of it, or there are too few pixels.
 * @param rgb three bytes a pixel
 */
export function colourIn(rgb: Uint8Array, width: number, height: number, box: Box): ColourName | undefined {
  const [x, y, w, h] = onPicture(box);
  const [x0, y0] = [Math.floor(x * width), Math.floor(y * height)];
  const [x1, y1] = [Math.min(width, Math.ceil((x + w) * width)), Math.min(height, Math.ceil((y + h) * height))];
  const counts = new Map<ColourName, number>();
  let total = 0;
  for (let row = y0; row < y1; row++)
    for (let column = x0; column < x1; column++) {
      const i = (row * width + column) * 3;
      const name = colourOfRgb(rgb[i]!, rgb[i + 1]!, rgb[i + 2]!);
      counts.set(name, (counts.get(name) ?? 0) + 1);
      total++;
    }
  if (total < 12) return undefined;
  const best = colourNames.reduce((a, b) => ((counts.get(b) ?? 0) > (counts.get(a) ?? 0) ? b : a));
  return (counts.get(best) ?? 0) >= minShare * total ? best : undefined;
}

/** A part of a box: from `top` to `bottom` of its height, the middle half of its width. */
const band = ([x, y, w, h]: Box, top: number, bottom: number): Box => [x + w * 0.25, y + h * top, w * 0.5, h * (bottom - top)];

/** What colours a thing has: of a person what is worn above and below, of anything else its middle. Not for infrared pictures. */
export function looksIn(rgb: Uint8Array, width: number, height: number, box: Box, cls: ClassName): Looks {
  if (cls === 'person') {
    // Common practice: the chest is a fifth to a half down from the crown, the legs are a bit more than half to nine tenths.
    const [upper, lower] = [colourIn(rgb, width, height, band(box, 0.2, 0.5)), colourIn(rgb, width, height, band(box, 0.55, 0.9))];
    return { ...(upper ? { upper } : {}), ...(lower ? { lower } : {}) };
  }
  const colour = colourIn(rgb, width, height, band(box, 0.25, 0.75));
  return colour ? { colour } : {};
}
