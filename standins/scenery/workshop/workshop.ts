// What passes between the page that renders and the script that keeps the results.

import type { FigureKind } from '../../src/cameras/cast';
import type { Pose } from '../../src/cameras/view';

export type Light = 'day' | 'night';

export type FigureSpec = {
  readonly kind: FigureKind;
  /** outfit, coat or model */
  readonly look: string;
  readonly paint?: number;
  readonly plate?: string;
  readonly letters?: string;
  /** of the step, radians */
  readonly phase: number;
  /** radians from the picture's right, anticlockwise from above */
  readonly heading: number;
};

/** A figure with its shadow on nothing; place and true box in pixels of a 960×540 picture. */
export type SpriteShot = {
  readonly png: string;
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
  readonly box: readonly [number, number, number, number];
};

export type WorkshopApi = {
  background(pose: Pose, light: Light, scale: number): string;
  depth(pose: Pose): string;
  sprite(figure: FigureSpec, light: Light, scale: number): SpriteShot;
};
