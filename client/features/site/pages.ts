// The pages of Site, in their order. A new one is a component and a line here.

import { lazy, type ComponentType } from 'react';
import type { Role } from '@nibber/core/site';
import type { Site } from '../../state/api/types';
import type { GlyphName } from '../../ui/Glyph';
import { SiteFileEditor } from '../site-file/SiteFileEditor';
import { Access } from './pages/Access';
import { Device } from './pages/Device';
import { Schedules } from './pages/Schedules';
import { Known } from './pages/Known';
import { Logbook } from './pages/Logbook';
import { Modes } from './pages/Modes';
import { SiteSettings } from './pages/SiteSettings';
import { Readings } from '../readings/Readings';
import { AiServices } from './pages/AiServices';
import { Storage } from './pages/Storage';

/** In their order. */
export const sitePageGroups = ['Site', 'People and alerts', 'Records', 'Access'] as const;

export type SitePage = {
  readonly id: string;
  readonly name: string;
  readonly says: string;
  readonly glyph: GlyphName;
  /** Under which heading it stands. */
  readonly group: (typeof sitePageGroups)[number];
  /** Who sees it; everyone where no one is named. */
  readonly roles?: readonly Role[];
  /** `item`: what of it is opened, where it has things with an address of their own. */
  /** It takes all the room there is. */
  readonly isWide?: true;
  readonly Page: ComponentType<{ site: Site; item?: string }>;
};

const settersUp: readonly Role[] = ['installer', 'owner'];

// Seldom opened, and with forms of their own: fetched when they are.
const Channels = lazy(() => import('./pages/Channels').then((m) => ({ default: m.Channels })));
const MyAlerts = lazy(() => import('../me/MyAlerts').then((m) => ({ default: m.MyAlerts })));
const People = lazy(() => import('./pages/People').then((m) => ({ default: m.People })));

export const sitePages: readonly SitePage[] = [
  {
    id: 'settings',
    group: 'Site',
    name: 'Site and areas',
    says: 'Name, time zone, location; areas armed separately',
    glyph: 'site',
    roles: settersUp,
    Page: SiteSettings,
  },
  {
    id: 'mine',
    group: 'People and alerts',
    name: 'My alerts',
    says: 'This phone, quiet hours, rules that notify you',
    glyph: 'bell',
    Page: MyAlerts,
  },
  {
    id: 'people',
    group: 'People and alerts',
    name: 'People',
    says: 'People, their access, invitations',
    glyph: 'person',
    roles: settersUp,
    Page: People,
  },
  { id: 'schedules', group: 'Site', name: 'Schedules', says: 'Opening hours and other schedules', glyph: 'clock', Page: Schedules },
  { id: 'modes', group: 'Site', name: 'Modes', says: 'How areas are armed', glyph: 'shield', Page: Modes },
  {
    id: 'known',
    group: 'Site',
    name: 'Known people and vehicles',
    says: 'Recognised when they return',
    glyph: 'check',
    roles: settersUp,
    Page: Known,
  },
  {
    id: 'readings',
    group: 'Site',
    name: 'Readings',
    says: 'Values read from pictures, and reminders',
    glyph: 'eye',
    Page: Readings,
  },
  {
    id: 'channels',
    group: 'People and alerts',
    name: 'Channels',
    says: 'How alerts are sent, and to whom',
    glyph: 'mail',
    roles: settersUp,
    Page: Channels,
  },
  {
    id: 'ai-services',
    group: 'People and alerts',
    name: 'AI services',
    says: 'Order of use, limits, prompts, sent pictures',
    glyph: 'plug',
    roles: settersUp,
    Page: AiServices,
  },
  {
    id: 'storage',
    group: 'Records',
    name: 'Storage',
    says: 'Stored data and free space',
    glyph: 'disk',
    roles: settersUp,
    Page: Storage,
  },
  { id: 'access', group: 'Access', name: 'Sessions and tokens', says: 'Who is signed in; keys for scripts', glyph: 'key', Page: Access },
  { id: 'device', group: 'Access', name: 'This device', says: 'Light or dark, password, sign out', glyph: 'device', Page: Device },
  { id: 'logbook', group: 'Records', name: 'Logbook', says: 'Changes and who made them', glyph: 'logbook', Page: Logbook },
  {
    id: 'file',
    group: 'Site',
    name: 'Site file',
    says: 'All settings as text',
    glyph: 'rules',
    roles: settersUp,
    isWide: true,
    Page: SiteFileEditor,
  },
];
