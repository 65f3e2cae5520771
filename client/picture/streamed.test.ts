import { codecsIn } from './streamed';

const bytes = (...parts: (string | number[])[]) =>
  Uint8Array.from(parts.flatMap((p) => (typeof p === 'string' ? [...p].map((c) => c.charCodeAt(0)) : p)));

// ISO/IEC 14496-15, 5.3.3.1: version 1, then profile, compatibility and level; RFC 6381, 3.3 writes them as avc1.PPCCLL.
test('the codecs are read from the beginning of a stream, once it is whole', () => {
  const configuration = bytes('avcC', [1, 0x42, 0xc0, 0x1e, 0xff]);
  expect(codecsIn(configuration)).toBeUndefined();
  expect(codecsIn(bytes([...configuration], 'moof'))).toEqual({ type: 'video/mp4; codecs="avc1.42c01e"', hasSound: false });
  expect(codecsIn(bytes([...configuration], 'mp4a', 'moof'))).toEqual({
    type: 'video/mp4; codecs="avc1.42c01e, mp4a.40.2"',
    hasSound: true,
  });
  expect(codecsIn(bytes('moof'))).toBeUndefined();
});
