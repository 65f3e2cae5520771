import { capabilitiesOf, capabilityOf } from '.';
import type { Camera } from '../site';

const streamed: Camera = { id: 'gate', name: 'Gate', area: 'yard', source: { kind: 'streamed', low: 'http://h/low' } };
const paired: Camera = { id: 'porch', name: 'Porch', area: 'yard', source: { kind: 'paired' } };

test('what a camera can do is a list; what it cannot has its reason', () => {
  const device: Camera = { ...streamed, source: { ...streamed.source, kind: 'streamed', low: 'http://h/low', device: 'http://h/onvif' } };
  expect(capabilityOf({ ...device, capabilities: ['lamp'], relays: { lamp: 'r1' } }, 'lamp')).toEqual({
    name: 'lamp',
    words: 'lamp',
    can: true,
  });
  expect(capabilityOf(device, 'siren')).toMatchObject({ can: false, why: expect.stringContaining('No relay') });
  expect(capabilityOf(device, 'speaker')).toMatchObject({ can: false, why: 'Not supported by the device.' });
  expect(capabilityOf(streamed, 'restart')).toMatchObject({
    can: false,
    why: expect.stringContaining('Gate sends only pictures'),
  });
  expect(capabilityOf(paired, 'lamp')).toMatchObject({ can: false, why: expect.stringContaining('its own app') });
});

test('detection: a streamed camera is looked at by us, a paired one looks itself', () => {
  const detection = (c: Camera) => capabilitiesOf(c)[0];
  expect(detection(streamed)).toMatchObject({ can: false, why: 'Nibber analyses its pictures itself.' });
  expect(detection(paired)).toMatchObject({ can: true, words: 'own detection' });
  expect(detection({ ...paired, builtInDetection: { classes: ['person', 'dog'] } })).toMatchObject({
    words: 'own detection of person, dog',
  });
  expect(detection({ ...paired, builtInDetection: { classes: [] } })).toMatchObject({
    can: false,
    why: expect.stringContaining('reports nothing'),
  });
});
