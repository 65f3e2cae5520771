import * as fc from 'fast-check';
import { gatewayRequest, isTaken, type Gateway } from '.';

const json: Gateway = {
  url: 'https://sms.example/send',
  headers: { 'Content-Type': 'application/json', Authorization: 'Bearer {secret}' },
  body: '{"to":"{to}","text":"{text}"}',
};
const form: Gateway = {
  url: 'https://sms.example/send',
  headers: { 'content-type': 'application/x-www-form-urlencoded' },
  body: 'to={to}&text={text}',
};
const address: Gateway = { url: 'https://sms.example/send?to={to}&text={text}&key={secret}', method: 'GET', body: 'not sent' };

test('whatever the text is, the gateway reads it as it was', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), (text) => {
      const values = { to: '+351900000001', text, secret: 'k&y' };
      expect(JSON.parse(gatewayRequest(json, values).body!)).toEqual({ to: values.to, text });
      expect(new URLSearchParams(gatewayRequest(form, values).body).get('text')).toBe(text);
      const { url, body } = gatewayRequest(address, values);
      expect([new URL(url).searchParams.get('text'), new URL(url).searchParams.get('key'), body]).toEqual([text, 'k&y', undefined]);
    }),
  );
});

test('a header takes no line end with it', () => {
  expect(gatewayRequest(json, { to: '', text: '', secret: 'a\r\nX: b' }).headers.Authorization).toBe('Bearer a X: b');
});

test('what counts as accepted', () => {
  expect([isTaken(json, 202, ''), isTaken(json, 302, ''), isTaken(json, 500, 'ok')]).toEqual([true, false, false]);
  const said = { ...json, accepted: '"queued":true' };
  expect([isTaken(said, 200, '{"queued":true}'), isTaken(said, 200, '{"error":"no credit"}')]).toEqual([true, false]);
});
