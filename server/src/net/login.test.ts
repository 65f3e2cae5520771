import { createServer } from 'node:http';
import { answerTo, challengeOf, fetchSigned, usernameToken } from './login';

// RFC 2617, section 3.5: the worked example.
test('an answer to a Digest challenge is the one of the standard’s example', () => {
  const challenge = challengeOf(
    'Digest realm="testrealm@host.com", qop="auth,auth-int", nonce="dcd98b7102dd2f0e8b11d0f600bfb0c093", opaque="5ccc069c403ebaf9f0171e9517f40e41"',
  )!;
  const header = answerTo(challenge, { name: 'Mufasa', password: 'Circle Of Life' }, 'GET', '/dir/index.html', '0a4f113b');
  expect(header).toContain('response="6629fae49393a05397450978507c4ef1"');
  expect(header).toContain('opaque="5ccc069c403ebaf9f0171e9517f40e41"');
});

// RFC 7617, section 2: the worked example.
test('an answer to a Basic challenge is the one of the standard’s example', () => {
  const challenge = challengeOf('Basic realm="WallyWorld"')!;
  expect(answerTo(challenge, { name: 'Aladdin', password: 'open sesame' }, 'GET', '/')).toBe('Basic QWxhZGRpbjpvcGVuIHNlc2FtZQ==');
});

// ONVIF Application Programmer's Guide, authentication: the worked example; its values from memory, which agree with one another.
test('the digest of a UsernameToken is the one of the guide’s example', () => {
  const nonce = Buffer.from('LKqI6G/AikKCQrN0zqZFlg==', 'base64');
  expect(usernameToken({ name: 'user', password: 'userpassword' }, '2010-09-16T07:50:45Z', nonce)).toEqual({
    username: 'user',
    digest: 'tuOSpGlFlIXsozq4HFNeeGeFLEI=',
    nonce: 'LKqI6G/AikKCQrN0zqZFlg==',
    created: '2010-09-16T07:50:45Z',
  });
});

test('of several challenges the strongest that can be answered is taken; unknown ones are left', () => {
  expect(challengeOf('Basic realm="x", Digest realm="x", nonce="n", algorithm=SHA-256, qop="auth"')).toMatchObject({
    algorithm: 'SHA-256',
  });
  expect(challengeOf('Digest realm="x", nonce="n", algorithm=SHA-512-256')).toBeUndefined();
  expect(challengeOf('Negotiate')).toBeUndefined();
  expect(challengeOf(null)).toBeUndefined();
});

test('a camera may send to another of its own addresses, never to another machine or round and round', async () => {
  const server = createServer((request, response) => {
    const to = { '/a': '/b', '/round': '/round', '/away': 'http://localhost:1/x', '/file': 'file:///etc/passwd' }[request.url!];
    if (to) response.writeHead(302, { location: to }).end();
    else response.end('here');
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const base = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  expect(await (await fetchSigned(`${base}/a`, undefined)).text()).toBe('here');
  await expect(fetchSigned(`${base}/round`, undefined)).rejects.toThrow('redirects too often');
  await expect(fetchSigned(`${base}/away`, undefined)).rejects.toThrow('another machine');
  await expect(fetchSigned(`${base}/file`, undefined)).rejects.toThrow('another machine');
  server.closeAllConnections();
  server.close();
});
