// The live stream (server-sent events), patched into what is held: nothing that it brings is asked for again.

import { useEffect } from 'react';
import { api, type EventFilter } from './api';
import type { CameraAnswer, LiveMessage, ListItem } from './api/types';
import { walkApi } from './api/walk';
import { connected, sawTracks, serverTime } from './live';
import { useAppDispatch, type Store } from './store';

type Kind = LiveMessage['kind'];
const kinds: readonly Kind[] = ['seen', 'item', 'sieve', 'mode', 'site', 'camera', 'arrived', 'walk', 'time'];

/** The server says the time every five seconds: a line on which it does not is none, whatever the browser thinks of it. */
const quietMs = 15_000;
const againMs = 3000;

/** Keeps the stream open while mounted. The browser reconnects by itself after a break, but not after an answer that is none, nor a line gone dead. */
export function useLive(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    let source: EventSource | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const openAgain = (ms: number) => {
      clearTimeout(timer);
      timer = setTimeout(() => {
        dispatch(connected('lost'));
        open();
      }, ms);
    };
    const open = () => {
      source?.close();
      source = new EventSource('/api/live');
      openAgain(quietMs);
      source.onopen = () => {
        dispatch(connected('open'));
        // What happened while the line was down is asked for.
        dispatch(api.util.invalidateTags(['Site', 'Cameras', 'Rules', 'Events', 'EventDetail', 'Sieve', 'Walks']));
      };
      source.onerror = ({ currentTarget }) => {
        dispatch(connected('lost'));
        if ((currentTarget as EventSource).readyState === EventSource.CLOSED) openAgain(againMs);
      };
      for (const kind of kinds)
        source.addEventListener(kind, (event) => {
          openAgain(quietMs);
          dispatch(tookLive(JSON.parse((event as MessageEvent<string>).data) as LiveMessage));
        });
    };
    const close = () => {
      clearTimeout(timer);
      source?.close();
    };
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

type Thunk = (dispatch: Store['dispatch'], getState: Store['getState']) => void;

/** Takes one message of the stream in. */
export const tookLive =
  (message: LiveMessage): Thunk =>
  (dispatch, getState) => {
    switch (message.kind) {
      case 'seen':
        return void dispatch(sawTracks(message));
      case 'time':
        dispatch(serverTime(message));
        return void dispatch(
          api.util.updateQueryData('cameras', undefined, (cameras) => {
            for (const c of cameras) c.health = message.cameras.find((h) => h.id === c.id)?.health ?? c.health;
          }),
        );
      case 'item':
        patchLists(message.item, dispatch, getState);
        // Whoever looks at it sees what has changed of it.
        return void dispatch(api.util.invalidateTags([{ type: 'EventDetail', id: message.item.id }, 'Walks']));
      case 'sieve':
        return void dispatch(api.util.updateQueryData('sieve', undefined, () => message.sieve));
      case 'mode':
        dispatch(
          api.util.updateQueryData('site', undefined, (site) => {
            site.areaModes = site.areaModes.map((m) => (m.area === message.mode.area ? message.mode : m));
          }),
        );
        return void dispatch(api.util.invalidateTags(['Logbook']));
      case 'camera':
        return void dispatch(api.util.updateQueryData('cameras', undefined, (cameras) => withCamera(cameras, message.camera)));
      case 'arrived':
        return void dispatch(api.util.invalidateTags([{ type: 'Pairing', id: message.camera }]));
      case 'walk':
        void dispatch(walkApi.util.upsertQueryData('walkTest', undefined, { now: message.now }));
        return void (message.now ?? dispatch(api.util.invalidateTags(['Walks'])));
      case 'site':
        return void dispatch(api.util.invalidateTags(['Site', 'Cameras', 'Rules', 'Logbook', 'Walks']));
    }
  };

const withCamera = (cameras: readonly CameraAnswer[], camera: CameraAnswer) => cameras.map((c) => (c.id === camera.id ? camera : c));

/** Every list that is held and that the item belongs to. */
function patchLists(item: ListItem, dispatch: Store['dispatch'], getState: Store['getState']): void {
  for (const { endpointName, originalArgs } of api.util.selectInvalidatedBy(getState(), ['Events'])) {
    if (endpointName !== 'events' || !belongs(item, originalArgs as EventFilter)) continue;
    dispatch(
      api.util.updateQueryData('events', originalArgs as EventFilter, ({ pages }) => {
        for (const page of pages) {
          const at = page.items.findIndex((i) => i.id === item.id);
          if (at >= 0) return void (page.items[at] = item);
        }
        const [first] = pages;
        if (!first) return;
        const before = first.items.findIndex((i) => i.at < item.at);
        // What is older than all that is held comes with its own page.
        if (before >= 0 || first.more === null) first.items.splice(before >= 0 ? before : first.items.length, 0, item);
      }),
    );
  }
}

export function belongs(item: ListItem, { show, camera, cls }: EventFilter): boolean {
  if (item.kind === 'event' && item.isTest) return false;
  if (show !== 'all' && (show === 'notified') !== (item.kind === 'event')) return false;
  return (camera === undefined || item.camera === camera) && (cls === undefined || item.class === cls);
}
