// What the routes work with.

import type { Clock } from '../clock';
import type { Config } from '../config';
import type { CameraClocks } from '../devices/clocks';
import type { DeviceEvents } from '../devices/listen';
import type { Attempts } from '../devices/attempt';
import type { Follow } from '../follow';
import type { Deliveries } from '../follow/deliveries';
import type { Lately } from '../follow/lately';
import type { Recent } from '../follow/recent';
import type { WalkTests } from '../follow/walk-test';
import type { CameraHealth } from '../intake/camera';
import type { Record } from '../record';
import type { Access } from '../record/access';
import type { CameraTokens, SignIns } from '../record/cameras';
import type { Recordings } from '../intake/recordings';
import type { SiteBook } from '../record/site';
import type { Links } from '../tell/links';
import type { PushKeys } from '../tell/push';
import type { WatchCounts } from '../watch';
import type { Live } from './live';

/** Of the stations, which keep the place from being watched or told; and of people, each of whom is not reached. */
export type Troubles = { readonly stations: readonly string[]; readonly people: readonly string[] };

export type Parts = {
  readonly config: Config;
  readonly clock: Clock;
  readonly record: Record;
  readonly access: Access;
  readonly site: SiteBook;
  readonly recent: Recent;
  readonly lately: Lately;
  readonly follow: Follow;
  readonly walkTests: WalkTests;
  readonly live: Live;
  readonly signIns: SignIns;
  /** Signs what marks a browser as known. */
  readonly markSecret: Buffer;
  readonly recordings: Recordings;
  readonly tokens: CameraTokens;
  readonly attempts: Attempts;
  readonly cameraClocks: CameraClocks;
  readonly deviceEvents: DeviceEvents;
  readonly deliveries: Deliveries;
  readonly links: Links;
  readonly keys: PushKeys;
  readonly cameraHealth: (camera: string) => (CameraHealth & WatchCounts) | undefined;
  /** Pulls a camera anew, as after another sign-in. */
  readonly reconnect: (camera: string) => void;
  /** What does not work now, in words, with what it means for the alerts. */
  readonly troubles: () => Troubles;
};
