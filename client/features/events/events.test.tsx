import { fireEvent, screen } from '@testing-library/react-native';
import { draw } from '../../testing/draw';
import type { EventItem, TrackItem } from '../../state/api/types';
import { EventCard } from './EventCard';

const at = Date.parse('2026-06-01T21:03:04Z');
const common = { id: 'x', at, camera: 'yard', cameraName: 'Yard', class: 'person' as const, type: null, box: null, picture: null };
const event: EventItem = {
  ...common,
  kind: 'event',
  rule: 'comes-in',
  ruleName: 'Someone comes in',
  picture: '',
  description: 'A person in red.',
  mark: 'useful',
  of: 'track',
  isTest: false,
};
const track: TrackItem = {
  ...common,
  kind: 'track',
  class: 'pet',
  type: 'dog',
  stoppedAt: 'class',
  why: 'It is a dog, not a person',
  ruleName: 'Someone comes in',
};

test('an event shows its rule, its sentence, its time at the place and its mark', async () => {
  let opened = 0;
  await draw(<EventCard item={event} zone="Europe/London" open={() => opened++} chosen={false} />).drawn;
  for (const words of ['Someone comes in', 'A person in red.', '22:03:04 · Yard', 'useful']) expect(screen.getByText(words)).toBeTruthy();
  await fireEvent.press(screen.getByTestId('event-x'));
  expect(opened).toBe(1);
});

test('an event without a sentence says what and where', async () => {
  await draw(<EventCard item={{ ...event, description: null, mark: null }} zone="Europe/London" open={() => {}} chosen={false} />).drawn;
  expect(screen.getByText('Person · Yard')).toBeTruthy();
});

test('a track no one was told of is called by the reason; the gate stands beside it', async () => {
  await draw(<EventCard item={track} zone="Europe/London" open={() => {}} chosen={false} />).drawn;
  expect(screen.getByText('A dog, but no rule is set for it')).toBeTruthy();
  expect(screen.getByText('type')).toBeTruthy();
  expect(screen.getByText('It is a dog, not a person.')).toBeTruthy();
});
