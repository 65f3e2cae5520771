// Sunrise and sunset. Source: NOAA, "Solar Calculation Details" (after Meeus, Astronomical Algorithms); zenith 90.833°, which
// takes the sun's radius and the air's usual refraction in.

import { dayMs, type Instant } from '../time';

export type SunDay =
  | { readonly kind: 'rises'; readonly sunrise: Instant; readonly sunset: Instant }
  /** The sun stays up, or down, for the whole day. */
  | { readonly kind: 'always-up' }
  | { readonly kind: 'always-down' };

const radians = Math.PI / 180;
const zenithDegrees = 90.833;

/**
 * The sun of one day at a place.
 * @param day days since 1970-01-01 as the calendar at the place counts them; solar noon nearest to noon of that day there is taken
 * @param latitude degrees north; @param longitude degrees east
 */
export function sunOf(day: number, latitude: number, longitude: number): SunDay {
  const rise = crossing(day, latitude, longitude, -1);
  const set = crossing(day, latitude, longitude, 1);
  if (typeof rise === 'string') return { kind: rise };
  if (typeof set === 'string') return { kind: set };
  return { kind: 'rises', sunrise: rise, sunset: set };
}

/** The sun moves on during the day, so the angle is worked out again for the hour that was found. */
function crossing(day: number, latitude: number, longitude: number, side: -1 | 1): Instant | 'always-up' | 'always-down' {
  const meanNoon = day * dayMs + (720 - 4 * longitude) * 60_000;
  let at = meanNoon;
  for (let i = 0; i < 3; i++) {
    const { declination, equationOfTimeMinutes } = sunAt(at);
    const cosine =
      Math.cos(zenithDegrees * radians) / (Math.cos(latitude * radians) * Math.cos(declination)) -
      Math.tan(latitude * radians) * Math.tan(declination);
    if (cosine < -1) return 'always-up';
    if (cosine > 1) return 'always-down';
    const hourAngle = Math.acos(cosine) / radians;
    at = meanNoon + (side * 4 * hourAngle - equationOfTimeMinutes) * 60_000;
  }
  return Math.round(at);
}

function sunAt(at: Instant): { readonly declination: number; readonly equationOfTimeMinutes: number } {
  const centuries = (at / dayMs + 2_440_587.5 - 2_451_545) / 36_525;
  const meanLongitude = ((280.46646 + centuries * (36_000.76983 + 0.0003032 * centuries)) % 360) * radians;
  const meanAnomaly = (357.52911 + centuries * (35_999.05029 - 0.0001537 * centuries)) * radians;
  const eccentricity = 0.016708634 - centuries * (0.000042037 + 0.0000001267 * centuries);
  const centre =
    Math.sin(meanAnomaly) * (1.914602 - centuries * (0.004817 + 0.000014 * centuries)) +
    Math.sin(2 * meanAnomaly) * (0.019993 - 0.000101 * centuries) +
    Math.sin(3 * meanAnomaly) * 0.000289;
  const node = (125.04 - 1934.136 * centuries) * radians;
  const apparentLongitude = meanLongitude + (centre - 0.00569 - 0.00478 * Math.sin(node)) * radians;
  const meanObliquity = 23 + (26 + (21.448 - centuries * (46.815 + centuries * (0.00059 - 0.001813 * centuries))) / 60) / 60;
  const obliquity = (meanObliquity + 0.00256 * Math.cos(node)) * radians;
  const y = Math.tan(obliquity / 2) ** 2;
  const equation =
    y * Math.sin(2 * meanLongitude) -
    2 * eccentricity * Math.sin(meanAnomaly) +
    4 * eccentricity * y * Math.sin(meanAnomaly) * Math.cos(2 * meanLongitude) -
    0.5 * y * y * Math.sin(4 * meanLongitude) -
    1.25 * eccentricity ** 2 * Math.sin(2 * meanAnomaly);
  return {
    declination: Math.asin(Math.sin(obliquity) * Math.sin(apparentLongitude)),
    equationOfTimeMinutes: (4 * equation) / radians,
  };
}
