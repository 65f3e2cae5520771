// Commands to a camera.

import { Problem } from '@nibber/core/problem';
import { giveCommand } from '../../outputs/command';
import { may, permissions } from '@nibber/core/permissions';
import { route, type Route } from '../route';
import { object, oneOf, yesNo } from '../schema';
import type { Services } from '../services';
import { namedCamera } from './named';

type Used = Pick<Services, 'site' | 'record' | 'clock' | 'cameraLogins'>;

export const commandRoutes = ({ site, record, clock, cameraLogins }: Used): Route[] => [
  route({
    method: 'post',
    path: '/api/cameras/:camera/commands',
    may: 'command',
    summary: 'Switch its lamp or siren, or restart it (owner or installer)',
    body: object({ command: oneOf('lamp', 'siren', 'restart'), on: yesNo }, ['on']),
    answer: object({ done: oneOf(true) }),
    async handle({ params, body: { command, on = true }, visitor }) {
      const { camera } = namedCamera(site, params.camera);
      if (command === 'restart' && !may(visitor.role, 'restart'))
        throw new Problem(
          'not-allowed',
          'Only the owner or installer can restart a camera.',
          `Ask one of: ${permissions.restart.join(', ')}.`,
        );
      await giveCommand(camera, command, on, (address) => cameraLogins.of(camera.id, address));
      const what = command === 'restart' ? `restarted ${camera.name}` : `switched the ${command} of ${camera.name} ${on ? 'on' : 'off'}`;
      await record.logbook.noteDeed(clock.now(), visitor, what);
      return { done: true as const };
    },
  }),
];
