// What connecting says.

import { isClockRight, offWords } from '@nibber/core/clocks';
import type { Orientation } from '@nibber/core/site';
import type { StepName } from '../../state/api/types';

export const stepWords: Readonly<Record<StepName, string>> = {
  name: 'Name found',
  reach: 'Reachable',
  port: 'Port open',
  'sign-in': 'Login accepted',
  stream: 'Stream found',
  decode: 'Picture received',
};

/** What will be asked at an address: a device by itself, a stream by its path. */
export function kindOf(address: string): 'device' | 'stream' {
  const text = address.trim();
  if (/^rtsp:/i.test(text)) return 'stream';
  const path = /^(?:https?:\/\/)?[^/]+(\/.*)?$/i.exec(text)?.[1] ?? '';
  return path === '' || path === '/' || /onvif/i.test(path) ? 'device' : 'stream';
}

/** Undefined where the camera's clock is near enough. */
export function clockWords(aheadMs: number): string | undefined {
  if (isClockRight(aheadMs)) return undefined;
  return `Its clock is ${offWords(aheadMs)}. The time shown in its pictures will not match the events here. Set the camera to use network time.`;
}

export function shownWords({ turnDegrees = 0, mirrored = false }: Orientation): string {
  const turn = turnDegrees ? `rotated by ${turnDegrees}°` : '';
  return [turn, mirrored ? 'mirrored' : ''].filter(Boolean).join(', ') || 'not rotated';
}

export const nextTurn = ({ turnDegrees = 0, ...rest }: Orientation): Orientation => ({
  ...rest,
  turnDegrees: ((turnDegrees + 90) % 360) as 0 | 90 | 180 | 270,
});

/** What is written on the screens of this feature. */
export const texts = {
  area: 'Area',
  forCamerasAndRecordersWith: 'For cameras and recorders with ONVIF.',
  forMjpegAJpegSnapshot: 'For MJPEG, a JPEG snapshot or RTSP.',
  byItsAddress: 'By its address',
  cameraOrStreamAddress: 'Camera or stream address',
  n192168120Or: '192.168.1.20 or rtsp://…',
  itIsAStream: 'It is a stream',
  itIsACamera: 'It is a camera',
  continueLabel: 'Continue',
  chooseAnotherCamera: 'Choose another camera',
  cameras: 'Cameras',
  connectACamera: 'Connect a camera',
  thisCamera: 'This camera',
  thisStream: 'This stream',
  thisRecording: 'This recording',
  onThisNetwork: 'On this network',
  searchAgain: 'Search again',
  stop: 'Stop',
  stopSearching: 'Stop searching',
  searchingForCameras: 'Searching for cameras…',
  searchProgress: 'Search progress',
  noCamerasFoundCamerasAnswer:
    'No cameras found. Cameras answer only if ONVIF is on and they are on this network. You can connect others by address.',
  aCamera: 'A camera',
  connect: 'Connect',
  isLargerThanMbUse: (name: string | number, maxBytes: string | number) =>
    `${name} is larger than ${maxBytes} MB. Use a shorter recording.`,
  fromARecording: 'From a recording',
  tryZonesSensitivityAndRules: 'Try zones, sensitivity and rules on an old recording, played in a loop as if live.',
  chooseARecording: 'Choose a recording',
  name: 'Name',
  password: 'Password',
  cameraWithItsOwnApp: 'Camera with its own app',
  theseCamerasDoTheirOwn: 'These cameras do their own detection. Nibber gives you an address to send their events to.',
  pairACamera: 'Pair a camera',
  createAddress: 'Create address',
  whatItCanDo: 'What it can do',
  itsLampIs: 'Its lamp is',
  itsSirenIs: 'Its siren is',
  none: 'none',
  hasAnInfraredLight: 'Has an infrared light',
  enterAName: 'Enter a name.',
  saveCamera: 'Save camera',
  hasNoPicture: (name: string | number, problem: string | number) => `${name} has no picture. ${problem}`,
  pictureFrom: (name: string | number) => `Picture from ${name}`,
  turn: 'Turn',
  mirror: 'Mirror',
  uploadedNowCheckThePicture: 'Uploaded. Now check the picture.',
  storedEncryptedNeverShownAgain: (kind: string | number) => `${kind} Stored encrypted, never shown again.`,
  tryAgain: 'Try again',
  showThePicture: 'Show the picture',
  connectionSteps: 'Connection steps',
  sent: (value: string | number) => `${value} % sent`,
  saveCameras: (kept: string | number) => `Save ${kept} cameras`,
  theUserNameAndPassword: 'The user name and password of the camera.',
  onlyIfTheStreamNeeds: 'Only if the stream needs them.',
} as const;
