// A AI service: where it is, what it is called there, what it costs and may cost; tried before it is saved.

import type { AiService } from '@nibber/core/site';
import { View } from 'react-native';
import { problemWords } from '../../state/api';
import {
  useAddServiceMutation,
  useRemoveServiceMutation,
  useSetServiceMutation,
  useTryServiceMutation,
  type UnnamedService,
} from '../../state/api/aiServices';
import type { AiTrial } from '../../state/api/types';
import { FormField, useForm } from '../../ui/Form';
import { Footer } from '../../ui/Footer';
import { Glyph } from '../../ui/Glyph';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Attention, Button, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { headersOf, linesOf } from '../channels/headers';
import { useSaved } from '../channels/useSaved';
import { texts, moneyWords, secondsWords } from './words';

type Filled = Record<
  'name' | 'url' | 'model' | 'key' | 'headers' | 'seconds' | 'atOnce' | 'priceIn' | 'priceOut' | 'currency' | 'answers' | 'money',
  string
>;
type Props = { of: AiService | undefined; hasKey: boolean; version: number; close: () => void };

const shown = (n: number | undefined) => (n === undefined ? '' : String(n));
const read = (text: string) => (text.trim() === '' ? undefined : Number(text.trim().replace(',', '.')));

const filledOf = (s: AiService | undefined): Filled => ({
  name: s?.name ?? '',
  url: s?.url ?? '',
  model: s?.model ?? '',
  key: '',
  headers: linesOf(s?.headers),
  seconds: shown(s?.seconds),
  atOnce: shown(s?.atOnce),
  priceIn: shown(s?.price?.in),
  priceOut: shown(s?.price?.out),
  currency: s?.price?.currency ?? '',
  answers: shown(s?.aDay?.answers),
  money: shown(s?.aDay?.money),
});

export function serviceOf(f: Filled): UnnamedService {
  const number = <K extends string>(key: K, text: string) =>
    read(text) === undefined ? {} : ({ [key]: read(text) } as { [P in K]: number });
  const hasPrice = [f.priceIn, f.priceOut, f.currency].some((t) => t.trim());
  const aDay = { ...number('answers', f.answers), ...number('money', f.money) };
  return {
    name: f.name.trim(),
    url: f.url.trim().replace(/\/+$/, ''),
    model: f.model.trim(),
    ...(f.headers.trim() ? { headers: headersOf(f.headers) } : {}),
    ...number('seconds', f.seconds),
    ...number('atOnce', f.atOnce),
    ...(hasPrice ? { price: { in: read(f.priceIn) ?? 0, out: read(f.priceOut) ?? 0, currency: f.currency.trim().toUpperCase() } } : {}),
    ...(Object.keys(aDay).length ? { aDay } : {}),
  };
}

export function serviceProblems(f: Filled): Partial<Filled> {
  const within = (key: keyof Filled, min: number, max: number, isWhole: boolean) => {
    const n = read(f[key]);
    const isRight = n === undefined || (n >= min && n <= max && (!isWhole || Number.isInteger(n)));
    return isRight ? {} : { [key]: texts.aFromTo(isWhole ? texts.wholeNumber : 'number', min, max) };
  };
  const needed = (key: keyof Filled) => (f[key].trim() ? {} : { [key]: texts.required });
  const hasPrice = [f.priceIn, f.priceOut, f.currency].some((t) => t.trim());
  return {
    ...needed('name'),
    ...needed('model'),
    ...(/^https?:\/\/\S+$/.test(f.url.trim()) ? {} : { url: texts.anAddressThatBeginsWith }),
    ...within('seconds', 1, 120, false),
    ...within('atOnce', 1, 16, true),
    ...within('priceIn', 0, 10_000, false),
    ...within('priceOut', 0, 10_000, false),
    ...(hasPrice && !/^[A-Za-z]{3}$/.test(f.currency.trim()) ? { currency: texts.threeLettersSuchAsEur } : {}),
    ...within('answers', 1, 1_000_000, true),
    ...within('money', 0.01, 100_000, false),
    ...(f.money.trim() && !hasPrice ? { money: texts.enterThePricesAboveToo } : {}),
  };
}

export function ServiceSheet({ of, hasKey, version, close }: Props) {
  const [add, adding] = useAddServiceMutation();
  const [set, setting] = useSetServiceMutation();
  const [remove] = useRemoveServiceMutation();
  const [attempt, tried] = useTryServiceMutation();
  const keep = useSaved(close);
  const { control, handleSubmit, formState } = useForm<Filled>(filledOf(of), (f) => serviceProblems(f) as Record<string, string>);
  const keyOf = ({ key }: Filled) => (key ? { key } : {});
  const save = handleSubmit((filled) => {
    const service = serviceOf(filled);
    const work = of ? set({ version, service: { ...service, id: of.id }, ...keyOf(filled) }) : add({ version, service, ...keyOf(filled) });
    void keep(work, texts.saved(service.name));
  });
  const tryIt = handleSubmit((filled) => void attempt({ service: serviceOf(filled), ...keyOf(filled), ...(of ? { id: of.id } : {}) }));
  const field = { control, autoCapitalize: 'none' as const };
  const isBusy = adding.isLoading || setting.isLoading;
  return (
    <Sheet
      title={of ? of.name : texts.aiService}
      open
      close={close}
      footer={<Footer save={() => void save()} canSave={formState.isValid && !isBusy} cancel={close} testID="service-save" />}
    >
      <Words tone="second">{texts.anyServiceWithAChat}</Words>
      <FormField control={control} name="name" label={texts.name} testID="service-name" />
      <FormField
        {...field}
        name="url"
        label={texts.address}
        inputMode="url"
        help={texts.withoutChatCompletionsAtThe}
        testID="service-url"
      />
      <FormField {...field} name="model" label={texts.model} testID="service-model" />
      <FormField
        {...field}
        name="key"
        label={texts.key}
        secureTextEntry
        autoComplete="new-password"
        help={hasKey ? texts.leaveEmptyToKeepThe : texts.sentOnlyToThisService}
        testID="service-key"
      />
      <FormField
        {...field}
        name="headers"
        label={texts.headersOnePerLine}
        multiline
        help={texts.keyIsReplacedByThe}
        testID="service-headers"
      />
      <Pair>
        <FormField
          {...field}
          name="seconds"
          label={texts.timeoutSeconds}
          inputMode="decimal"
          help={texts.n20IfEmpty}
          testID="service-seconds"
        />
        <FormField
          {...field}
          name="atOnce"
          label={texts.parallelRequests}
          inputMode="numeric"
          help={texts.n4IfEmpty}
          testID="service-at-once"
        />
      </Pair>
      <Words bold>{texts.priceOf1000Tokens}</Words>
      <Pair>
        <FormField {...field} name="priceIn" label={texts.sent} inputMode="decimal" testID="service-price-in" />
        <FormField {...field} name="priceOut" label={texts.answered} inputMode="decimal" testID="service-price-out" />
        <FormField control={control} name="currency" label={texts.currency} autoCapitalize="characters" testID="service-currency" />
      </Pair>
      <Words bold>{texts.dailyLimit}</Words>
      <Pair>
        <FormField {...field} name="answers" label={texts.answers} inputMode="numeric" testID="service-answers" />
        <FormField {...field} name="money" label={texts.money} inputMode="decimal" testID="service-money" />
      </Pair>
      <Words size="small" tone="second">
        {texts.atTheLimitTheNext}
      </Words>
      <Row>
        <Button
          words={tried.isLoading ? texts.testing : texts.tryIt}
          disabled={!formState.isValid || tried.isLoading}
          onPress={() => void tryIt()}
          testID="service-try"
        />
      </Row>
      {tried.data && <Tried trial={tried.data} currency={control._formValues.currency as string} />}
      {tried.isError && <Attention words={problemWords(tried.error) ?? ''} />}
      <RemoveRow
        remove={of && (() => void keep(remove({ version, id: of.id }), texts.wasRemoved(of.name)))}
        close={close}
        testID="service-remove"
      />
    </Sheet>
  );
}

const Pair = ({ children }: { children: React.ReactNode[] }) => (
  <View style={{ flexDirection: 'row', gap: 8 }}>
    {children.map((child, i) => (
      <View key={i} style={{ flex: 1 }}>
        {child}
      </View>
    ))}
  </View>
);

const partWords: { readonly [P in AiTrial['parts'][number]['part']]: string } = {
  reach: texts.reachable,
  'sign-in': texts.login,
  model: texts.model,
  picture: texts.picture,
  shape: texts.shape,
};

function Tried({ trial: { parts, seconds, cost }, currency }: { trial: AiTrial; currency: string }) {
  const p = usePalette();
  return (
    <View testID="service-tried" style={{ gap: 4 }}>
      {parts
        .filter(({ holds }) => holds !== null)
        .map(({ part, holds, said }) => (
          <Row key={part} style={{ flexWrap: 'nowrap', alignItems: 'flex-start' }}>
            <Glyph name={holds ? 'check' : 'attention'} colour={holds ? p.work : p.attentionInk} />
            <Words style={{ flexShrink: 1 }} tone={holds ? 'ink' : 'attentionInk'}>{`${partWords[part]}: ${said}`}</Words>
          </Row>
        ))}
      <Words size="small" tone="second">
        {texts.itTookItWasTested(
          secondsWords(seconds),
          cost === null ? '' : texts.andCost(moneyWords(cost, currency.trim().toUpperCase())),
        )}
      </Words>
    </View>
  );
}
