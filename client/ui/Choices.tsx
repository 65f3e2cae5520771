// Choosing: one of several (radio buttons, walked through by the arrow keys) or any of several (checks). Chips where there is little to say,
// rows where each needs a word of its own. What is chosen is said to a screen reader in ARIA's words, which Paper leaves out on the web.

import { useRef } from 'react';
import { View } from 'react-native';
import { Icon, List, Text, TouchableRipple } from 'react-native-paper';
import type { GlyphName } from './Glyph';
import { corner, target, usePalette } from './theme';

export type Choice<V extends string = string> = {
  readonly value: V;
  readonly words: string;
  readonly detail?: string | undefined;
  readonly glyph?: GlyphName | undefined;
  readonly testID?: string | undefined;
};

type OneOfProps<V extends string> = {
  /** What is chosen, for screen readers. */
  readonly label: string;
  readonly choices: readonly Choice<V>[];
  readonly value: V | undefined;
  readonly choose: (value: V) => void;
  readonly disabled?: boolean;
  readonly rows?: boolean;
  /** Called when one was picked by a touch, after it was chosen; not while keys walk through them. */
  readonly picked?: () => void;
  /** Side by side over the whole width. */
  readonly wide?: boolean;
};

/** One of several. */
export function OneOf<V extends string>({ label, choices, value, choose, disabled, rows = false, wide = false, picked }: OneOfProps<V>) {
  const box = useRef<View>(null);
  const step = (by: 1 | -1) => {
    const at = choices.findIndex((c) => c.value === value);
    const next = choices[(at + by + choices.length) % choices.length]!;
    choose(next.value);
    const places = (box.current as unknown as HTMLElement | null)?.querySelectorAll<HTMLElement>('[role=radio]');
    places?.[choices.indexOf(next)]?.focus();
  };
  const onKey = (event: { key: string; preventDefault(): void }) => {
    if (disabled) return;
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key] as 1 | -1 | undefined;
    if (!by) return;
    event.preventDefault();
    step(by);
  };
  const known = choices.some((c) => c.value === value);
  return (
    <View
      ref={box}
      role="radiogroup"
      aria-label={label}
      {...({ onKeyDown: onKey } as object)}
      style={rows ? undefined : { flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}
    >
      {choices.map((c, i) => {
        const chosen = c.value === value;
        const isStop = known ? chosen : i === 0;
        const props = {
          choice: c,
          chosen,
          disabled: disabled ?? false,
          role: 'radio' as const,
          tabIndex: isStop ? 0 : -1,
          press: () => (choose(c.value), picked?.()),
        };
        return rows ? <Option key={c.value} {...props} /> : <ChoiceChip key={c.value} {...props} wide={wide} />;
      })}
    </View>
  );
}

type SomeOfProps<V extends string> = Omit<OneOfProps<V>, 'value' | 'choose'> & {
  readonly values: readonly V[];
  readonly toggle: (value: V) => void;
};

/** Any of several. */
export function SomeOf<V extends string>({ label, choices, values, toggle, disabled, rows = false }: SomeOfProps<V>) {
  return (
    <View role="group" aria-label={label} style={rows ? undefined : { flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
      {choices.map((c) => {
        const chosen = values.includes(c.value);
        const props = {
          choice: c,
          chosen,
          disabled: disabled ?? false,
          role: 'checkbox' as const,
          tabIndex: 0,
          press: () => toggle(c.value),
        };
        return rows ? <Option key={c.value} {...props} /> : <ChoiceChip key={c.value} {...props} />;
      })}
    </View>
  );
}

/** Something that is so or not. */
export function Check({
  words,
  detail,
  checked,
  press,
  testID,
}: {
  words: string;
  detail?: string;
  checked: boolean;
  press: () => void;
  testID?: string;
}) {
  return (
    <Option choice={{ value: words, words, detail, testID }} chosen={checked} disabled={false} role="checkbox" tabIndex={0} press={press} />
  );
}

type ItemProps = {
  readonly choice: Choice<string>;
  readonly chosen: boolean;
  readonly disabled: boolean;
  readonly role: 'radio' | 'checkbox';
  readonly tabIndex: number;
  readonly press: () => void;
};

/** What a screen reader announces; on the web these names are ARIA's own. */
const said = ({ choice, chosen, disabled, role, tabIndex }: ItemProps) =>
  ({ role, 'aria-checked': chosen, 'aria-disabled': disabled, tabIndex, testID: choice.testID }) as object;

/** Paper's own marks are buttons themselves on the web, and may not stand in one. */
const marks = { radio: { on: 'radio-on', off: 'radio-off' }, checkbox: { on: 'checkbox-marked', off: 'checkbox-blank-outline' } } as const;

function Option(props: ItemProps) {
  const { choice, chosen, disabled, role, press } = props;
  const p = usePalette();
  return (
    <List.Item
      title={choice.words}
      description={choice.detail}
      onPress={press}
      disabled={disabled}
      titleNumberOfLines={3}
      descriptionNumberOfLines={6}
      left={() => (
        <View aria-hidden style={{ justifyContent: 'center', paddingLeft: 12 }}>
          <Icon source={marks[role][chosen ? 'on' : 'off']} size={22} color={chosen ? p.work : p.second} />
        </View>
      )}
      style={{ minHeight: target, paddingVertical: 2, paddingRight: 8 }}
      {...said(props)}
    />
  );
}

function ChoiceChip({ wide = false, ...props }: ItemProps & { readonly wide?: boolean }) {
  const { choice, chosen, disabled, press } = props;
  const p = usePalette();
  const ink = chosen ? p.onWork : p.ink;
  return (
    <TouchableRipple
      onPress={press}
      disabled={disabled}
      style={{
        flex: wide ? 1 : undefined,
        minHeight: target,
        minWidth: target,
        paddingHorizontal: 14,
        justifyContent: 'center',
        borderRadius: corner,
        borderWidth: 1,
        borderColor: chosen ? p.work : p.rule,
        backgroundColor: chosen ? p.work : p.surface,
        opacity: disabled ? 0.5 : 1,
      }}
      {...said(props)}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'center', gap: 8 }}>
        {choice.glyph && <Icon source={choice.glyph} size={18} color={ink} />}
        <Text variant="bodyMedium" style={{ color: ink }}>
          {choice.words}
        </Text>
      </View>
    </TouchableRipple>
  );
}
