import { policyOf, startConnection, stepConnection, type ConnectionInput, type ConnectionPolicy } from '.';

const second = 1000;
function run(inputs: readonly (readonly ['heard' | 'clock', number])[], policy: Partial<ConnectionPolicy> = {}, canRestart = true) {
  let state = startConnection(0);
  return inputs.flatMap(([kind, seconds]) => {
    const input: ConnectionInput = { kind, at: seconds * second };
    const next = stepConnection(policyOf(policy), state, input, canRestart);
    state = next.state;
    return next.outcomes.map((o) => [o.kind, o.at / second]);
  });
}

test('after one silent period it is lost, after two the stream is opened again, after five the camera is asked to restart', () => {
  const looks = Array.from({ length: 20 }, (_, i) => ['clock', (i + 1) * 10] as const);
  expect(run(looks)).toEqual([
    ['lost', 30],
    ['reopen', 60],
    ['restart', 150],
  ]);
  expect(run(looks, {}, false).map(([kind]) => kind)).toEqual(['lost', 'reopen']);
});

test('one look after a long time tells the same, each at its own time', () => {
  expect(run([['clock', 200]])).toEqual([
    ['lost', 30],
    ['reopen', 60],
    ['restart', 150],
  ]);
});

test('while it sends nothing is said, and being back is said once', () => {
  expect(
    run([
      ['heard', 20],
      ['clock', 45],
      ['heard', 49],
      ['clock', 78],
    ]),
  ).toEqual([]);
  expect(
    run([
      ['clock', 40],
      ['heard', 45],
      ['heard', 46],
    ]),
  ).toEqual([
    ['lost', 30],
    ['back', 45],
  ]);
});

test('it is told again until it is back, where that is asked', () => {
  const again = { repeatSeconds: 600, reopenAfter: undefined, restartAfter: undefined };
  expect(
    run(
      [
        ['clock', 100],
        ['clock', 1300],
        ['heard', 1400],
        ['clock', 1410],
      ],
      again,
    ),
  ).toEqual([
    ['lost', 30],
    ['still-lost', 630],
    ['still-lost', 1230],
    ['back', 1400],
  ]);
});

test('going and coming too often is one event, until it has been steady for an hour', () => {
  const flaps = Array.from(
    { length: 12 },
    (_, i) =>
      [
        ['clock', i * 100 + 40],
        ['heard', i * 100 + 100],
      ] as const,
  ).flat();
  const steady = Array.from({ length: 400 }, (_, i) => ['heard', 1110 + i * 10] as const);
  const kinds = run([...flaps, ...steady], { reopenAfter: undefined, restartAfter: undefined }).map(([kind]) => kind);
  // Six changes are each said; the seventh is one too many.
  expect(kinds).toEqual(['lost', 'back', 'lost', 'back', 'lost', 'back', 'flapping', 'steady']);
});
