// The choices for one part of a rule's sentence. A choice holds at once and can be undone.

import type { Rule } from '@nibber/core/site';
import { OneOf, SomeOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { duration } from '../../ui/times';
import type { CameraAnswer, Site } from '../../state/api/types';
import type { PartName } from './wording';

type Props = { part: PartName; rule: Rule; site: Site; cameras: readonly CameraAnswer[]; change: (rule: Rule) => void; close: () => void };
type Choice = { readonly words: string; readonly detail?: string; readonly chosen: boolean; readonly next: Rule | undefined };

const classNames = ['person', 'vehicle', 'pet', 'car', 'truck', 'bus', 'motorcycle', 'bicycle', 'dog', 'cat'] as const;
const confidences = [0, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8] as const;
const rests = [0, 30, 60, 120, 300, 600, 1800, 3600] as const;

const titles: Readonly<Record<PartName, string>> = {
  classes: 'What is it about?',
  confidence: 'How sure must the detector be?',
  from: 'From where?',
  to: 'To where?',
  zone: 'Where?',
  modes: 'In which modes?',
  hours: 'At what hours?',
  message: 'What is in the message?',
  rest: 'How often at most?',
};

export function PartSheet(props: Props) {
  const { part, change, close } = props;
  const all = choicesOf(props);
  const choices = all.map(({ words, detail }) => ({ value: words, words, detail, testID: `choice-${words}` }));
  const chosen = all.filter((c) => c.chosen).map((c) => c.words);
  const take = (words: string) => {
    const next = all.find((c) => c.words === words)?.next;
    if (next) change(next);
  };
  return (
    <Sheet title={titles[part]} open close={close} footer={<Footer words="Done" save={close} canSave />}>
      {part === 'classes' || part === 'modes' ? (
        <>
          <SomeOf label={titles[part]} choices={choices} values={chosen} toggle={take} rows />
          <Words size="small" tone="second">
            At least one stays chosen.
          </Words>
        </>
      ) : (
        <OneOf label={titles[part]} choices={choices} value={chosen[0]} choose={take} picked={close} rows />
      )}
    </Sheet>
  );
}

/** With the word put in or taken out; undefined where nothing would be left. */
const toggled = <T extends string>(list: readonly T[], word: T): T[] | undefined => {
  const next = list.includes(word) ? list.filter((w) => w !== word) : [...list, word];
  return next.length ? next : undefined;
};

function choicesOf({ part, rule, site, cameras }: Props): Choice[] {
  const zones = cameras.find((c) => c.id === rule.cameras[0])?.zones.filter((z) => z.purpose === 'watch') ?? [];
  switch (part) {
    case 'classes':
      return classNames.map((name) => {
        const next = toggled(rule.classes, name);
        return { words: name, chosen: rule.classes.includes(name), next: next && { ...rule, classes: next } };
      });
    case 'confidence':
      return confidences.map((c) => ({
        words: c ? `${Math.round(c * 100)} %` : 'any',
        chosen: (rule.confidence ?? 0) === c,
        next: { ...rule, confidence: c },
      }));
    case 'from':
    case 'to':
    case 'zone': {
      const otherEnd = part === 'from' ? rule.does.to : part === 'to' ? rule.does.from : undefined;
      return zones.map((z) => ({
        words: z.name,
        chosen: rule.does[part] === z.id,
        next: {
          ...rule,
          does: z.id === otherEnd ? { ...rule.does, from: rule.does.to, to: rule.does.from } : { ...rule.does, [part]: z.id },
        },
      }));
    }
    case 'modes': {
      const own = rule.modes ?? site.modes.map((m) => m.id);
      return site.modes.map((m) => {
        const next = toggled(own, m.id);
        return {
          words: m.name,
          detail: m.armed ? 'armed' : 'not armed',
          chosen: own.includes(m.id),
          next: next && { ...rule, modes: next },
        };
      });
    }
    case 'hours': {
      const { hours: _, ...anyTime } = rule;
      return [
        { words: 'At any time', chosen: rule.hours === undefined, next: anyTime },
        ...site.hours.map((h) => ({
          words: h.name,
          detail: h.on ? 'on now' : 'not on now',
          chosen: rule.hours === h.id,
          next: { ...rule, hours: h.id },
        })),
      ];
    }
    case 'message': {
      const now = { picture: rule.message?.picture ?? true, description: rule.message?.description ?? false };
      const kinds = [
        ['A picture and a description', true, true],
        ['A picture', true, false],
        ['A description', false, true],
        ['Words alone', false, false],
      ] as const;
      return kinds.map(([words, picture, description]) => ({
        words,
        chosen: now.picture === picture && now.description === description,
        next: { ...rule, message: { picture, description } },
      }));
    }
    case 'rest':
      return rests.map((s) => ({
        words: s ? `At most every ${duration(s)}` : 'Every time',
        chosen: (rule.restSeconds ?? 0) === s,
        next: { ...rule, restSeconds: s },
      }));
  }
}
