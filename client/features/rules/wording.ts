// A rule as a sentence: plain words and parts that can be changed.

import type { Rule } from '@nibber/core/site';
import { duration } from '../../ui/times';
import { listed } from '@nibber/core/words';
import type { CameraAnswer, Site } from '../../state/api/types';

export type PartName = 'classes' | 'confidence' | 'from' | 'to' | 'zone' | 'modes' | 'hours' | 'message' | 'rest';
export type Piece = string | { readonly part: PartName; readonly words: string };

export function sentenceOf(
  rule: Rule,
  site: Pick<Site, 'modes' | 'hours' | 'people'>,
  cameras: readonly Pick<CameraAnswer, 'id' | 'name' | 'zones' | 'lines'>[],
): Piece[] {
  const own = cameras.filter((c) => rule.cameras.includes(c.id));
  const zoneName = (id: string | undefined) => own.flatMap((c) => c.zones).find((z) => z.id === id)?.name ?? id ?? 'the picture';
  const pieces: Piece[] = ['When a ', { part: 'classes', words: listed(rule.classes, 'or') }];
  if (rule.confidence) pieces.push(' (', { part: 'confidence', words: `at least ${Math.round(rule.confidence * 100)} % sure` }, ')');
  const { does } = rule;
  if (does.kind !== 'goes' && does.kind !== 'appears' && does.kind !== 'stays')
    pieces.splice(0, pieces.length, ...otherPieces(rule, zoneName, own));
  else if (does.kind === 'goes')
    pieces.push(
      does.either ? ' goes between ' : ' goes from ',
      { part: 'from', words: zoneName(does.from) },
      does.either ? ' and ' : ' to ',
      { part: 'to', words: zoneName(does.to) },
    );
  else
    pieces.push(
      does.kind === 'stays' ? ' stays in ' : ' appears in ',
      { part: 'zone', words: zoneName(does.zone) },
      does.seconds ? ` for ${duration(does.seconds)}` : '',
    );
  pieces.push(' while ', {
    part: 'modes',
    words: rule.modes
      ? listed(
          rule.modes.map((m) => site.modes.find((k) => k.id === m)?.name ?? m),
          'or',
        ) || 'no mode'
      : 'any mode',
  });
  const hours = site.hours.find((h) => h.id === rule.hours);
  pieces.push(', ', { part: 'hours', words: hours ? hoursWords(hours.name) : 'at any time' });
  pieces.push(
    `, tell ${
      listed(
        (rule.tell ?? []).map((t) => personWords(t.to, site)),
        'and',
      ) || 'nobody'
    } with `,
    { part: 'message', words: messageWords(rule) },
  );
  const rest = rule.restSeconds ?? 0;
  pieces.push(', ', rest ? 'at most every ' : '', { part: 'rest', words: rest ? duration(rest) : 'every time' }, '.');
  return pieces.filter((p) => p !== '');
}

/** Behaviours whose parts cannot be changed in the sentence yet: the words alone. */
function otherPieces(
  { does, classes, sensors = [] }: Rule,
  zoneName: (id: string | undefined) => string,
  own: readonly Partial<Pick<CameraAnswer, 'lines'>>[],
): Piece[] {
  const what: Piece = { part: 'classes', words: listed(classes, 'or') };
  const where: Piece = { part: 'zone', words: zoneName(does.zone) };
  const long = does.seconds ? ` for ${duration(does.seconds)}` : '';
  switch (does.kind) {
    case 'crosses': {
      const line = own.flatMap((c) => c.lines ?? []).find((l) => l.id === does.line)?.name ?? does.line ?? '';
      const way = does.direction === 'forward' || does.direction === 'back' ? ` ${does.direction}` : '';
      return ['When a ', what, ` crosses ${line}${way}`];
    }
    case 'count': {
      const number = does.over !== undefined ? `more than ${does.over}` : `fewer than ${does.under}`;
      return [`When there are ${number} of `, what, ' in ', where, long];
    }
    case 'empty':
      return ['When there is no ', what, ' in ', where, long];
    case 'approaches':
      return ['When a ', what, ` comes within ${does.metres} m in `, where, long];
    case 'returns':
      return ['When a ', what, ` with ${does.known === false ? 'an unknown' : 'a known'} ${does.by ?? 'plate'} is in `, where, long];
    default:
      return [`When ${listed(sensors, 'or')} says ${listed(does.states ?? ['anything'], 'or')}`];
  }
}

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);
const hoursWords = (name: string) =>
  /^(outside|during|within|at|before|after)\b/i.test(name) ? lowerFirst(name) : `during ${lowerFirst(name)}`;
const personWords = (to: string, site: Pick<Site, 'people'>) => site.people.find((p) => p.id === to)?.name ?? `the ${to}`;

export function messageWords(rule: Rule): string {
  const [picture, description] = [rule.message?.picture ?? true, rule.message?.description ?? false];
  if (picture) return description ? 'a picture and a description' : 'a picture';
  return description ? 'a description' : 'words alone';
}

/** What a rule lacks before it can be switched on, in words. */
export function missingOf(rule: Rule): string | undefined {
  if (!rule.tell?.length) return 'It tells nobody: name somebody to tell before it is switched on.';
  if (rule.modes?.length === 0) return 'It is on in no mode: choose one before it is switched on.';
  return undefined;
}
