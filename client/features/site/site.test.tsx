import { screen } from '@testing-library/react-native';
import { answering, draw, site } from '../../testing/draw';
import { Channels } from './pages/Channels';
import { AiServices } from './pages/AiServices';
import { waitingWords } from './words';

test('what waits is counted in words', () => {
  expect([0, 1, 7].map(waitingWords)).toEqual(['Nothing is waiting.', 'One is waiting to be sent.', '7 are waiting to be sent.']);
});

test('a channel says who is not reached, and what is wrong', async () => {
  const people = [
    { person: 'rowan', name: 'Rowan', targets: 2 },
    { person: 'ives', name: 'Ives', targets: 0 },
  ];
  const push = {
    name: 'push',
    isSetUp: true,
    hasSecret: false,
    waiting: 3,
    problem: 'The push service answered 500.',
    people,
    acceptedAt: null,
    refusedAt: null,
    why: null,
  };
  answering({ 'GET /api/channels': { body: { channels: [push], settings: {}, receivers: [], version: 1 } } });
  await draw(<Channels site={site} />).drawn;
  await screen.findByText('Notification');
  expect(screen.getByText('2 phones')).toBeTruthy();
  expect(screen.getByText('unreachable: no phone')).toBeTruthy();
  expect(screen.getByText('3 are waiting to be sent.')).toBeTruthy();
  expect(screen.getByText('The push service answered 500.')).toBeTruthy();
});

test('a service that is not set up says what is missing by that', async () => {
  answering({
    'GET /api/ai-services': {
      body: {
        services: [],
        order: { descriptions: [], questions: [], readings: [], asking: [] },
        waiting: 0,
        problem: null,
        canMakeClips: true,
        version: 1,
      },
    },
  });
  await draw(<AiServices site={site} />).drawn;
  await screen.findByText('Use');
  expect(screen.getByText(/Alerts have a picture but no description/)).toBeTruthy();
  expect(screen.getByText(/Each event has a short clip/)).toBeTruthy();
});
