// The live stream (server-sent events), patched into the state.

import { useEffect } from 'react';
import { api } from './api';
import { connected, sawTracks, toldTime } from './seen.slice';
import { walkApi, type WalkNow } from '../walk/api';
import { useAppDispatch, type Store } from './store';
import type { SeenTrack } from './types';

type Message =
  | { kind: 'seen'; camera: string; tracks: SeenTrack[] }
  | { kind: 'event' | 'track'; id: string }
  | { kind: 'mode' }
  | { kind: 'site' }
  | { kind: 'arrived'; camera: string }
  | { kind: 'said' }
  | { kind: 'walk'; now: WalkNow | null }
  | { kind: 'time'; now: number; troubles: string[] };

const kinds: readonly Message['kind'][] = ['seen', 'event', 'track', 'mode', 'site', 'arrived', 'said', 'walk', 'time'];

/** Keeps the stream open while mounted; the browser reconnects by itself. */
export function useLive(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    let source: EventSource | undefined;
    const open = () => {
      source = new EventSource('/api/live');
      source.onopen = () => {
        dispatch(connected('open'));
        // What happened while the line was down is asked for.
        dispatch(api.util.invalidateTags(['Site', 'Cameras', 'Rules', 'Events', 'Moment', 'Sieve', 'Walks']));
      };
      source.onerror = () => dispatch(connected('lost'));
      for (const kind of kinds)
        source.addEventListener(kind, (event) => take(JSON.parse((event as MessageEvent<string>).data) as Message, dispatch));
    };
    const close = () => source?.close();
    // A page that the browser keeps for going back must not hold a line: there are only six to one server.
    const back = (event: PageTransitionEvent) => event.persisted && open();
    window.addEventListener('pagehide', close);
    window.addEventListener('pageshow', back);
    open();
    return () => {
      window.removeEventListener('pagehide', close);
      window.removeEventListener('pageshow', back);
      close();
    };
  }, [dispatch]);
}

function take(message: Message, dispatch: Store['dispatch']): void {
  switch (message.kind) {
    case 'seen':
      return void dispatch(sawTracks(message));
    case 'time':
      return void dispatch(toldTime(message));
    case 'event':
      return void dispatch(api.util.invalidateTags(['Events', 'Sieve', 'Walks', { type: 'Moment', id: message.id }]));
    case 'track':
      return void dispatch(api.util.invalidateTags(['Events', 'Sieve', 'Moment']));
    case 'mode':
      return void dispatch(api.util.invalidateTags(['Site', 'Logbook']));
    case 'arrived':
      return void dispatch(api.util.invalidateTags(['Cameras', { type: 'Pairing', id: message.camera }]));
    case 'said':
      return void dispatch(api.util.invalidateTags(['Cameras']));
    case 'walk':
      void dispatch(walkApi.util.upsertQueryData('walkTest', undefined, { now: message.now }));
      return void (message.now ?? dispatch(api.util.invalidateTags(['Walks'])));
    case 'site':
      return void dispatch(api.util.invalidateTags(['Site', 'Cameras', 'Rules', 'Logbook', 'Walks']));
  }
}
