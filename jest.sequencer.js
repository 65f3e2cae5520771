// What takes longest begins first, so that no worker waits for it at the end; Jest itself knows that only of files it has run before.

const Sequencer = require('@jest/test-sequencer').default;

const longest = [
  'hooks/fuzz',
  'devices/devices',
  'http/fuzz',
  'describer/held-scenes',
  'db/migrations',
  'commands/commands',
  'persist/spoilt',
  'http/unblocked',
  'notify/people',
  'notify/question',
  'people/owners',
  'receivers/receivers',
  'mailbox/mailbox',
].map((name) => `${name}.test.ts`);
const rank = ({ path }) => {
  const at = longest.findIndex((name) => path.endsWith(name));
  return at < 0 ? longest.length : at;
};

module.exports = class extends Sequencer {
  sort(tests) {
    return super.sort(tests).sort((a, b) => rank(a) - rank(b));
  }
};
