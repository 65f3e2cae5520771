// What the routes work with.

import type { Clock } from '../clock';
import type { Config } from '../config';
import type { Follow } from '../follow';
import type { Recent } from '../follow/recent';
import type { CameraHealth } from '../intake/camera';
import type { Record } from '../record';
import type { Access } from '../record/access';
import type { SiteBook } from '../record/site';
import type { Links } from '../tell/links';
import type { PushKeys } from '../tell/push';
import type { WatchCounts } from '../watch';
import type { Live } from './live';

export type Parts = {
  readonly config: Config;
  readonly clock: Clock;
  readonly record: Record;
  readonly access: Access;
  readonly site: SiteBook;
  readonly recent: Recent;
  readonly follow: Follow;
  readonly live: Live;
  readonly links: Links;
  readonly keys: PushKeys;
  readonly cameraHealth: (camera: string) => (CameraHealth & WatchCounts) | undefined;
  /** What does not work now, in words, with what it means for the alerts. */
  readonly troubles: () => readonly string[];
};
