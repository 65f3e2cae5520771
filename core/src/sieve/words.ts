// What the gates found, in words that can be shown as they stand. The one place for them.

import type { AnchorRule } from '../zones';
import { means, type CompiledRule, type CompiledSite } from '../site';
import { classOf, type ClassName } from '../boxes';
import { wallWords, type Instant } from '../time';
import type { Found, GateName } from './gates';

export type Step = { readonly gate: GateName; readonly passes: boolean; readonly found: string; readonly wanted: string };

type Said = { readonly found: string; readonly wanted: string; readonly why: string };
type Context = { readonly site: CompiledSite; readonly at: Instant };

const per = (share: number) => `${Math.round(share * 1000) / 10} %`;
const score = (v: number) => v.toFixed(2);
const seconds = (ms: number) => (ms < 90_000 ? `${Math.round(ms / 100) / 10} s` : `${Math.round(ms / 6000) / 10} min`);
const counted = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;
const listed = (words: readonly string[], link = 'or') =>
  words.length < 2 ? (words[0] ?? 'nothing') : `${words.slice(0, -1).join(', ')} ${link} ${words.at(-1)}`;
const part = (anchor: AnchorRule) =>
  typeof anchor === 'string' ? (anchor === 'feet' ? 'its feet' : 'its middle') : `${per(anchor.overlap)} of it`;
const aOr = (name: string) => (name === 'other' ? 'something else' : `a ${name.replace('other-animal', 'animal')}`);
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const say: { readonly [G in GateName]: (rule: CompiledRule, found: Found, context: Context) => Said } = {
  source: (rule, found, { site }) => {
    const wanted = listed(rule.rule.cameras.map((id) => site.cameras.get(id)?.name ?? id));
    return found === 'off'
      ? { found: 'switched off', wanted: 'switched on', why: 'The rule was switched off' }
      : { found: String(found), wanted, why: `${found} is not a camera of this rule` };
  },
  class: (rule, found) => {
    const wanted = listed(rule.rule.classes);
    const isMeant = means(rule.classes, classOf(String(found)) as ClassName, String(found));
    return {
      found: String(found),
      wanted,
      why: isMeant ? `It is ${aOr(String(found))}` : `It is ${aOr(String(found))}, not ${listed(rule.rule.classes.map(aOr))}`,
    };
  },
  confidence: (rule, found) => ({
    found: score(Number(found)),
    wanted: rule.confidence > 0 ? `at least ${score(rule.confidence)}` : 'any',
    why: `The detector was ${score(Number(found))} sure; the rule asks for ${score(rule.confidence)}`,
  }),
  size: ({ size: { least, most } }, found) => ({
    found: per(Number(found)),
    wanted: most < 1 ? `${per(least)} to ${per(most)}` : least > 0 ? `at least ${per(least)}` : 'any size',
    why: `It is ${per(Number(found))} of the picture high; the rule asks for ${Number(found) < least ? `at least ${per(least)}` : `at most ${per(most)}`}`,
  }),
  masks: (rule, found) =>
    found === undefined
      ? { found: 'in the open', wanted: 'not in an ignored part', why: 'It is in no ignored part' }
      : {
          found: `in ${found}`,
          wanted: 'not in an ignored part',
          why: `${capital(part(rule.anchor))} is in ${found}, which is ignored`.replace('feet is', 'feet are'),
        },
  place: ({ behaviour: does, anchor }, found) => {
    const zones = does.kind === 'goes' ? `${does.from.name} or ${does.to.name}` : (does.zone?.name ?? 'the picture');
    return found === undefined
      ? { found: 'elsewhere', wanted: `${part(anchor)} in ${zones}`, why: `It was never in ${zones} with ${part(anchor)}` }
      : { found: `in ${found}`, wanted: `${part(anchor)} in ${zones}`, why: `It was in ${found}` };
  },
  behaviour: ({ behaviour: does }, found) => {
    if (does.kind === 'goes') return goingWords(does.from.name, does.to.name, String(found));
    const [frames, time] = String(found).split(' ').map(Number) as [number, number];
    const wanted = [does.frames > 1 ? counted(does.frames, 'picture') : '', does.seconds > 0 ? seconds(does.seconds * 1000) : '']
      .filter(Boolean)
      .join(' and ');
    const spent = `${counted(frames, 'picture')}, ${seconds(time * 1000)}`;
    return {
      found: spent,
      wanted: wanted || '1 picture',
      why: `It was in ${does.zone?.name ?? 'the picture'} for ${spent}; the rule asks for ${wanted || '1 picture'}`,
    };
  },
  looks: (_rule, found) => ({ found: String(found), wanted: '', why: String(found) }),
  mode: (rule, found, { site }) => {
    const name = (id: string) => site.modeNames.get(id) ?? id;
    const wanted = rule.rule.modes ? listed(rule.rule.modes.map(name)) : 'any mode';
    return { found: name(String(found)), wanted, why: `The mode was ${name(String(found))}; the rule is on while ${wanted}` };
  },
  hours: (rule, found, { site }) => {
    const when = wallWords(site.zone, Number(found));
    if (!rule.hours) return { found: when, wanted: 'any time', why: `${when} is as good as any time` };
    const { name, outsideName } = rule.hours;
    const why = outsideName ? `${when} is inside ${lowerFirst(outsideName)}` : `${when} is not in ${lowerFirst(name)}`;
    return { found: when, wanted: lowerFirst(name), why };
  },
  presence: (_rule, found) => ({ found: String(found), wanted: '', why: String(found) }),
  repeat: (rule, found) => {
    const since = Number(found);
    const rest = seconds(rule.restMs);
    return since === Infinity || found === null
      ? { found: 'the first', wanted: rule.restMs ? `${rest} after the last` : 'no rest', why: 'It is the first of this rule here' }
      : {
          found: `${seconds(since)} after the last`,
          wanted: rule.restMs ? `${rest} after the last` : 'no rest',
          why: `The last one was ${seconds(since)} before; the rule rests ${rest}`,
        };
  },
};

function goingWords(from: string, to: string, found: string): Said {
  const wanted = `${from}, then ${to}`;
  if (found === 'arrived') return { found: wanted, wanted, why: `It went from ${from} to ${to}` };
  const [first, last] = found.split(' ');
  if (!first) return { found: 'in neither for long enough', wanted, why: `It was neither in ${from} nor in ${to} for long enough` };
  if (first === 'to') return { found: `${to} first`, wanted, why: `It was seen in ${to} first, not in ${from}` };
  return last === 'to'
    ? { found: `${from}, then ${to}`, wanted, why: `It had gone from ${from} to ${to} before` }
    : { found: `${from} only`, wanted, why: `It was in ${from} and did not go to ${to}` };
}

/** Names stand within sentences: "Outside opening hours" → "outside opening hours"; "DST plan" stays. */
const lowerFirst = (text: string) => (/^[A-Z][a-z ]/.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text);

export const stepOf = (gate: GateName, passes: boolean, rule: CompiledRule, found: Found, context: Context): Step => {
  const { found: f, wanted } = say[gate](rule, found, context);
  return { gate, passes, found: f, wanted };
};

/** Why a gate let through, or did not, as a sentence without its full stop. */
export const whyOf = (gate: GateName, rule: CompiledRule, found: Found, context: Context): string => say[gate](rule, found, context).why;
