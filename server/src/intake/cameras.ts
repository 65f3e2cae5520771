// Streamed cameras, each pulled for as long as it stands in the site file; what comes is given to the watch.

import type { Ground } from '../db/ground';
import type { Station } from '../base/station';
import type { FrameCounts, PictureSink } from '../base/picture';
import { takeIn, type CameraHealth, type Intake } from './camera';
import type { Recordings } from './recordings';

export type Cameras = Station & {
  /** How a camera does; undefined of one that is not pulled. */
  health(camera: string): (CameraHealth & FrameCounts) | undefined;
  /** Pulls a camera again, as after another sign-in. */
  reconnect(camera: string): void;
};

type Needs = Pick<Ground, 'site' | 'bus' | 'clock' | 'cameraLogins'> & { readonly recordings: Recordings };

export function startCameras({ site, bus, clock, cameraLogins, recordings }: Needs, watch: PictureSink): Cameras {
  const pulled = new Map<string, { source: string; intake: Intake }>();
  const connect = () => {
    watch.setLooks(site.file.cameras);
    // A paired camera sends its events by itself; there is nothing to pull.
    const wanted = new Map(
      site.file.cameras.flatMap(({ id, source }) => (source.kind === 'streamed' ? [[id, { id, source }] as const] : [])),
    );
    for (const [id, { source, intake }] of pulled)
      if (JSON.stringify(wanted.get(id)?.source) !== source) {
        intake.close();
        pulled.delete(id);
      }
    for (const [id, camera] of wanted) {
      if (pulled.has(id)) continue;
      const login = () => cameraLogins.of(id, camera.source.low);
      const intake = takeIn(camera, login, clock, watch.take, recordings.resolve);
      pulled.set(id, { source: JSON.stringify(camera.source), intake });
    }
  };
  connect();
  bus.on('site', 'Cameras', ({ kind }) => kind === 'site' && connect());
  return {
    name: 'cameras',
    health(camera) {
      const health = pulled.get(camera)?.intake.health();
      const spoilt = watch.spoilt(camera);
      const unread = spoilt ? { state: 'silent' as const, problem: `Its pictures cannot be read: ${spoilt}.` } : {};
      return health && { ...health, ...unread, ...watch.counts(camera) };
    },
    reconnect(camera) {
      pulled.get(camera)?.intake.close();
      pulled.delete(camera);
      connect();
    },
    // A silent camera is said at the camera.
    problems: () => [],
    close: async () => pulled.forEach(({ intake }) => intake.close()),
  };
}
