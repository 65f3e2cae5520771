import { linesOf } from './rehearsal';

const bodyOf = (...parts: string[]) =>
  new ReadableStream<Uint8Array>({
    start(controller) {
      const bytes = new TextEncoder();
      parts.forEach((part) => controller.enqueue(bytes.encode(part)));
      controller.close();
    },
  });

test.each([
  [
    ['{"a":1}\n{"b"', ':2}\n'],
    ['{"a":1}', '{"b":2}'],
  ],
  [
    ['{"a":1}\n\n', '', '{"b":2}'],
    ['{"a":1}', '{"b":2}'],
  ],
  [[], []],
])('lines are put together however they come: %j', async (parts, lines) => {
  const found: string[] = [];
  for await (const line of linesOf(bodyOf(...parts))) found.push(line);
  expect(found).toEqual(lines);
});
