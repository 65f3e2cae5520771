// Every route there is, resource by resource.

import { accessRoutes } from './access/routes';
import { commandRoutes } from './cameras/commands';
import { drawingRoutes } from './cameras/drawings';
import { cameraPictureRoutes } from './cameras/pictures';
import { actionRoutes } from './actions/routes';
import { askRoutes } from './ask/routes';
import { cameraRoutes } from './cameras/routes';
import { chainRoutes } from './chain/routes';
import { commissioningRoutes } from './commissioning/routes';
import { connectRoutes } from './connect/routes';
import { eventRoutes } from './events/routes';
import { healthRoutes } from './health/routes';
import { scheduleRoutes } from './schedules/routes';
import { meRoutes } from './me/routes';
import { modeRoutes } from './modes/routes';
import { aiServiceRoutes } from './ai-services/routes';
import { promptTestRoutes } from './ai-services/prompt-tests';
import { outgoingRoutes } from './outgoing/routes';
import { pairingRoutes } from './pairing/routes';
import { peopleRoutes } from './people/routes';
import { phoneRoutes } from './phones/routes';
import { pictureRoutes } from './pictures/routes';
import { siteSettingsRoutes } from './site-settings/routes';
import { planRoutes } from './plan/routes';
import type { Route } from './route';
import { readingRoutes } from './readings/routes';
import { ruleRoutes } from './rules/routes';
import { rehearsalRoutes } from './rules/rehearsal';
import type { Services } from './services';
import { siteRoutes } from './site/routes';
import { whyRoutes } from './why/routes';
import { storageRoutes } from './storage/routes';
import { storedDataRoutes } from './stored-data/routes';
import { tuningRoutes } from './tuning/routes';
import { walkTestRoutes } from './walk-tests/routes';

export const allRoutes = (services: Services): Route[] => [
  ...accessRoutes(services),
  ...siteRoutes(services),
  ...siteSettingsRoutes(services),
  ...scheduleRoutes(services),
  ...modeRoutes(services),
  ...cameraRoutes(services),
  ...cameraPictureRoutes(services),
  ...drawingRoutes(services),
  ...commandRoutes(services),
  ...chainRoutes(services),
  ...commissioningRoutes(services),
  ...connectRoutes(services),
  ...pairingRoutes(services),
  ...tuningRoutes(services),
  ...walkTestRoutes(services),
  ...readingRoutes(services),
  ...ruleRoutes(services),
  ...rehearsalRoutes(services),
  ...eventRoutes(services),
  ...askRoutes(services),
  ...peopleRoutes(services),
  ...meRoutes(services),
  ...whyRoutes(services),
  ...phoneRoutes(services),
  ...actionRoutes(services),
  ...aiServiceRoutes(services),
  ...promptTestRoutes(services),
  ...outgoingRoutes(services),
  ...storageRoutes(services),
  ...storedDataRoutes(services),
  ...planRoutes(services),
  ...pictureRoutes(services),
  ...healthRoutes(services),
];
