// Pictures and what is found in them, as they pass from station to station.

import type { Detection } from '@nibber/core/boxes';
import type { Motion } from '@nibber/core/motion';
import type { Camera } from '@nibber/core/site';
import type { Instant } from '@nibber/core/time';
import type { Frame } from '@nibber/core/tracks';

/** A picture with the time it was taken in. */
export type Picture = { readonly camera: string; readonly at: number; readonly jpeg: Buffer };

/** A picture that may be stored and shown: its privacy masks are applied. */
export type SafePicture = Picture & { readonly motion: Motion; readonly isInfrared: boolean };

/** A picture or clip that was written to the disk. */
export type StoredFile = { readonly name: string; readonly bytes: number };

/** An object in a picture, with how well the picture shows it. */
export type Sighting = Detection & { readonly quality: number };

/** A picture that was analysed. `sightings` are the objects of its frame with how well the picture shows each. */
export type Watched = { readonly picture: SafePicture; readonly frame: Frame; readonly sightings: readonly Sighting[] };

/** What a camera with its own detection says it saw: when it said so, and what it came in. */
export type Delivered = { readonly frame: Frame; readonly picture: SafePicture; readonly arrivedAt: Instant; readonly delivery: string };

/** Pixels of a model's input. */
export type InputSize = { readonly width: number; readonly height: number };

/** `analysisMs`: what the detector spent on this camera, in all; `input`: how finely it looked last. */
export type FrameCounts = {
  framesReceived: number;
  dropped: number;
  framesAnalysed: number;
  analysisMs: number;
  input: InputSize | undefined;
};

/** Where cameras' pictures go. */
export type PictureSink = {
  take(picture: Picture): void;
  /** How each camera's pictures are masked and analysed from now on. */
  setLooks(cameras: readonly Camera[]): void;
  counts(camera: string): FrameCounts;
  /** Why the pictures of a camera cannot be used; undefined while they can be decoded. */
  spoilt(camera: string): string | undefined;
};
