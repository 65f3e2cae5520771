// The devices that stand on the network here: what they are, how they are signed in to, what their lenses look at.

import type { CameraName } from '../cameras/view';

export type DeviceName = keyof typeof park;

export type DeviceSettings = {
  readonly maker: string;
  readonly model: string;
  readonly firmware: string;
  readonly user: string;
  readonly password: string;
  /** One lens each; `null` where nothing is plugged in. */
  readonly channels: readonly (CameraName | null)[];
  readonly relays: readonly string[];
  readonly speakers: number;
  readonly microphones: number;
};

export const park = {
  racks: {
    maker: 'Reedmace',
    model: 'RM-200',
    firmware: '2.4.1',
    user: 'admin',
    password: 'reed-mace-7',
    channels: ['racks'],
    relays: ['lamp-out', 'siren-out'],
    speakers: 1,
    microphones: 1,
  },
  recorder: {
    maker: 'Reedmace',
    model: 'RM-4R',
    firmware: '1.0.9',
    user: 'admin',
    password: 'four-reeds',
    channels: ['yard', 'lane-gate', 'porch', null],
    relays: [],
    speakers: 0,
    microphones: 0,
  },
} as const satisfies Record<string, DeviceSettings>;

export const deviceFaults = ['none', 'silent', 'refuses', 'no stream', 'clock off', 'covered', 'rubbish'] as const;
export type DeviceFault = (typeof deviceFaults)[number];
