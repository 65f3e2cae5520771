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
