// What the routes work with, by name; each asks for what it uses.

import type { Watching } from './access/watching';
import type { AiServices } from '../ai-services';
import type { PromptTestStation } from '../ai-services/prompt-tests';
import type { Devices } from '../devices';
import type { Follow } from '../tracking';
import type { WalkTests } from '../tracking/walk-test';
import type { Cameras } from '../intake/cameras';
import type { Deliveries } from '../intake/deliveries';
import type { Recordings } from '../intake/recordings';
import type { RecentFrames } from '../media/recent-frames';
import type { ClipBuffer } from '../media/clip-buffer';
import type { Ground } from '../db/ground';
import type { Cleanup } from '../cleanup';
import type { StationProblem } from '../base/station';
import type { ReadingStation } from '../readings';
import type { Rehearsals } from '../rehearsal';
import type { Channel } from '../notify/channels';
import type { Viewers } from './live/viewers';

export type Services = Ground & {
  readonly recent: ClipBuffer;
  readonly recentFrames: RecentFrames;
  readonly follow: Follow;
  readonly walkTests: WalkTests;
  readonly rehearsals: Rehearsals;
  readonly live: Viewers;
  readonly recordings: Recordings;
  /** By which people are notified. */
  readonly channels: readonly Channel[];
  readonly aiServices: AiServices;
  readonly readings: ReadingStation;
  readonly promptTests: PromptTestStation;
  /** An alert is due. */
  readonly wake: () => void;
  readonly canMakeClips: boolean;
  readonly devices: Devices;
  readonly deliveries: Deliveries;
  readonly cameras: Pick<Cameras, 'health' | 'reconnect'>;
  /** What does not work now. */
  readonly problems: () => readonly StationProblem[];
  readonly watching: Watching;
  readonly cleanup: Pick<Cleanup, 'state'>;
};
