import { openBus } from './bus';

test('all who listen are told in the order in which they began to, also after one that fails', () => {
  const bus = openBus();
  const heard: string[] = [];
  bus.on('said', ({ camera }) => heard.push(`first ${camera}`));
  bus.on('said', () => {
    throw new Error('no');
  });
  bus.on('said', ({ camera }) => heard.push(`last ${camera}`));
  bus.on('arrived', () => heard.push('another'));
  expect(() => bus.publish('said', { camera: 'gate' })).toThrow('no');
  expect(heard).toEqual(['first gate', 'last gate']);
});
