import { screen } from '@testing-library/react-native';
import { lazy, Suspense } from 'react';
import { draw } from '../../testing/draw';
import { Unopened } from './Unopened';

jest.mock('expo-router', () => ({ usePathname: () => '/rules' }));

test('a page whose part cannot be fetched says so, and how to go on', async () => {
  jest.spyOn(console, 'error').mockImplementation(() => {});
  const Part = lazy<() => null>(() => Promise.reject(new Error('gone')));
  await draw(
    <Unopened>
      <Suspense fallback={null}>
        <Part />
      </Suspense>
    </Unopened>,
  ).drawn;
  expect(await screen.findByText(/This page could not be loaded\./)).toBeTruthy();
  expect(screen.getByTestId('load-again')).toBeTruthy();
});
