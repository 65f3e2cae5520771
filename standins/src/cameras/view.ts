// Where the stand-in cameras hang, and how a point of the ground comes to lie on their picture.
// World: metres, x to the east, z to the south. Seen by a camera: x to the right, z negative ahead.

/** One mounting for all cameras, so that one set of figures serves every view. */
export const mounting = {
  heightMetres: 3,
  tiltDegrees: 12,
  /** vertical angle of view */
  fieldDegrees: 35,
  /** where figures stood when they were drawn, as seen by the camera */
  spriteAt: [0, -11],
} as const;

/** Heading 0 looks north; positive turns to the right. */
export type Pose = { readonly x: number; readonly z: number; readonly headingDegrees: number };

export const poses = {
  yard: { x: 0, z: 0, headingDegrees: 0 },
  'lane-gate': { x: 1.5, z: -28, headingDegrees: 180 },
  racks: { x: 1.5, z: -2.5, headingDegrees: -58 },
  porch: { x: 9.8, z: -2, headingDegrees: -40 },
  jetty: { x: -70.5, z: 9, headingDegrees: 180 },
  workshop: { x: 70, z: 6.2, headingDegrees: 0 },
} as const satisfies Record<string, Pose>;

export type CameraName = keyof typeof poses;

/** Those that hang here by themselves; the others belong to devices, or to an app of their own. */
export const plainCameras = ['yard', 'lane-gate', 'racks', 'jetty', 'workshop'] as const satisfies readonly CameraName[];
export type PlainCamera = (typeof plainCameras)[number];

/** The depth of a view is kept as a grey up to here; what lies farther hides nothing. */
export const farMetres = 64;

export type GroundPoint = { readonly x: number; readonly z: number };

/** A point of the world as this camera sees the ground: x right, z negative ahead. */
export function seenFrom(pose: Pose, p: GroundPoint): GroundPoint {
  const turn = (pose.headingDegrees * Math.PI) / 180;
  const [dx, dz] = [p.x - pose.x, p.z - pose.z];
  return { x: dx * Math.cos(turn) + dz * Math.sin(turn), z: -dx * Math.sin(turn) + dz * Math.cos(turn) };
}

/** Place on a picture of this width, pixels, and the depth by which sizes shrink. */
export function project(p: GroundPoint, widthPx: number): { x: number; y: number; depth: number } {
  const tilt = (mounting.tiltDegrees * Math.PI) / 180;
  const heightPx = (widthPx * 9) / 16;
  const focal = heightPx / 2 / Math.tan((mounting.fieldDegrees * Math.PI) / 360);
  const [s, c] = [Math.sin(tilt), Math.cos(tilt)];
  const depth = mounting.heightMetres * s - p.z * c;
  const rise = -mounting.heightMetres * c - p.z * s;
  return { x: widthPx / 2 + (focal * p.x) / depth, y: heightPx / 2 - (focal * rise) / depth, depth };
}
