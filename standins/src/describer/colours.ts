// Names for the colour of a part of a picture.

/** The name of the usual colour among pixels, three bytes each; undefined where they have none to speak of. */
export function colourName(rgb: Uint8Array): string {
  const counts = new Map<string, number>();
  for (let i = 0; i < rgb.length; i += 3) {
    const name = nameOf(rgb[i]!, rgb[i + 1]!, rgb[i + 2]!);
    counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'grey';
}

/** Of one point. */
export function nameOf(r: number, g: number, b: number): string {
  const [high, low] = [Math.max(r, g, b), Math.min(r, g, b)];
  const spread = high - low;
  if (high < 45) return 'black';
  if (spread < 22) return high > 190 ? 'white' : high < 80 ? 'dark grey' : 'grey';
  const hue = high === r ? ((g - b) / spread + 6) % 6 : high === g ? (b - r) / spread + 2 : (r - g) / spread + 4;
  const degrees = hue * 60;
  const dark = high < 95 ? 'dark ' : '';
  if (degrees < 18 || degrees >= 340) return `${dark}red`;
  if (degrees < 50) return high < 150 ? 'brown' : 'tan';
  if (degrees < 70) return 'yellow';
  if (degrees < 165) return `${dark}green`;
  if (degrees < 262) return `${dark}blue`;
  return `${dark}purple`;
}
