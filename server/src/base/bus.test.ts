import { openBus } from './bus';

test('all listeners are called in order; one that fails is reported by its station, and holds up no other', () => {
  const reported: unknown[] = [];
  const bus = openBus({ report: (station, thrown) => void reported.push([station, (thrown as Error).message]) });
  const heard: string[] = [];
  bus.on('said', 'First', ({ camera }) => heard.push(`first ${camera}`));
  bus.on('said', 'Second', () => {
    throw new Error('no');
  });
  bus.on('said', 'Third', ({ camera }) => heard.push(`last ${camera}`));
  bus.on('arrived', 'Other', () => heard.push('another'));
  bus.publish('said', { camera: 'gate' });
  expect(heard).toEqual(['first gate', 'last gate']);
  expect(reported).toEqual([['Second', 'no']]);
});
