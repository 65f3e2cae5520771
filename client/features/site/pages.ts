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
import { Storage } from '../storage/Storage';
import { texts } from './words';

/** In their order. */
export const sitePageGroups = [texts.site, texts.peopleAndAlerts, texts.records, texts.access] as const;

export type SitePage = {
  readonly id: string;
  readonly name: string;
  readonly says: string;
  readonly glyph: GlyphName;
  /** Under which heading it stands. */
  readonly group: (typeof sitePageGroups)[number];
  /** Who sees it; everyone where no one is named. */
  readonly roles?: readonly Role[];
  /** `item`: what of it is opened, where it has objects with an address of their own. */
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
    name: texts.siteAndAreas,
    says: texts.nameTimeZoneLocationAreas,
    glyph: 'site',
    roles: settersUp,
    Page: SiteSettings,
  },
  {
    id: 'mine',
    group: 'People and alerts',
    name: texts.myAlerts,
    says: texts.thisPhoneQuietHoursRules,
    glyph: 'bell',
    Page: MyAlerts,
  },
  {
    id: 'people',
    group: 'People and alerts',
    name: texts.people,
    says: texts.peopleTheirAccessInvitations,
    glyph: 'person',
    roles: settersUp,
    Page: People,
  },
  { id: 'schedules', group: 'Site', name: texts.schedules, says: texts.openingHoursAndOtherSchedules, glyph: 'clock', Page: Schedules },
  { id: 'modes', group: 'Site', name: texts.modes, says: texts.howAreasAreArmed, glyph: 'shield', Page: Modes },
  {
    id: 'known',
    group: 'Site',
    name: texts.knownPeopleAndVehicles,
    says: texts.recognisedWhenTheyReturn,
    glyph: 'check',
    roles: settersUp,
    Page: Known,
  },
  {
    id: 'readings',
    group: 'Site',
    name: texts.readings,
    says: texts.valuesReadFromPicturesAnd,
    glyph: 'eye',
    Page: Readings,
  },
  {
    id: 'channels',
    group: 'People and alerts',
    name: texts.channels,
    says: texts.howAlertsAreSentAnd,
    glyph: 'mail',
    roles: settersUp,
    Page: Channels,
  },
  {
    id: 'ai-services',
    group: 'People and alerts',
    name: texts.aiServices,
    says: texts.orderOfUseLimitsPrompts,
    glyph: 'plug',
    roles: settersUp,
    Page: AiServices,
  },
  {
    id: 'storage',
    group: 'Records',
    name: texts.storage,
    says: texts.storedDataAndFreeSpace,
    glyph: 'disk',
    roles: settersUp,
    Page: Storage,
  },
  { id: 'access', group: 'Access', name: texts.sessionsAndTokens, says: texts.whoIsSignedInKeys, glyph: 'key', Page: Access },
  { id: 'device', group: 'Access', name: texts.thisDevice, says: texts.lightOrDarkPasswordSign, glyph: 'device', Page: Device },
  { id: 'logbook', group: 'Records', name: texts.logbook, says: texts.changesAndWhoMadeThem, glyph: 'logbook', Page: Logbook },
  {
    id: 'file',
    group: 'Site',
    name: texts.siteFile,
    says: texts.allSettingsAsText,
    glyph: 'rules',
    roles: settersUp,
    Page: SiteFileEditor,
  },
];
