// The days of each kind, typed; empty for what the site, or Nibber, says.

import {
  cameraKinds,
  defaultDays,
  defaultDiskShare,
  defaultFreeGigabytes,
  retentionKinds,
  retentionOf,
  type RetentionKind,
} from '@nibber/core/retention';
import { useSetRetentionMutation } from '../../state/api/outgoing';
import type { StorageAnswer } from '../../state/api/types';
import { FormField, useForm, type Problems } from '../../ui/Form';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { useSaved } from '../channels/useSaved';
import { daysText, kindHelp, kindNames, texts } from './words';

type Filled = { [K in RetentionKind]: string } & { share: string; free: string };
type Retention = StorageAnswer['retention'];

type Props = {
  storage: StorageAnswer;
  /** None for the site's own. */
  camera: { readonly id: string; readonly name: string } | undefined;
  close: () => void;
};

const isWithin = (text: string, min: number, max: number, isWhole: boolean) => {
  const n = Number(text.replace(',', '.'));
  return text.trim() === '' || (n >= min && n <= max && (!isWhole || Number.isInteger(n)));
};

export function DaysSheet({ storage, camera, close }: Props) {
  const kinds: readonly RetentionKind[] = camera ? cameraKinds : retentionKinds;
  const { retention, version } = storage;
  const [save, saving] = useSetRetentionMutation();
  const keep = useSaved(close);
  const own: Retention['days'] = camera ? retention.cameras?.find((c) => c.camera === camera.id)?.days : retention.days;
  const otherwise = camera ? retentionOf({ retention }).days : defaultDays;
  const start = {
    ...Object.fromEntries(kinds.map((kind) => [kind, String(own?.[kind] ?? '')])),
    share: retention.maxDiskShare === undefined ? '' : String(retention.maxDiskShare * 100),
    free: String(retention.minFreeGigabytes ?? ''),
  } as Filled;
  const { control, handleSubmit, formState } = useForm<Filled>(start, (filled) => {
    const problems: Record<string, string> = {};
    for (const kind of kinds) if (!isWithin(filled[kind], 1, 3650, true)) problems[kind] = texts.fromOneTo;
    if (!isWithin(filled.share, 1, 100, false)) problems.share = texts.aShare;
    if (!isWithin(filled.free, 0.1, 100_000, false)) problems.free = texts.aFree;
    return problems as Problems;
  });
  const done = handleSubmit(
    (filled) => void keep(save({ version, retention: changed(retention, camera?.id, kinds, filled) }), texts.saved),
  );
  const number = { control, inputMode: 'decimal' as const };
  return (
    <Sheet
      title={camera ? texts.ofCamera(camera.name) : texts.howLong}
      open
      close={close}
      footer={<Footer save={() => void done()} canSave={formState.isValid && !saving.isLoading} cancel={close} testID="retention-save" />}
    >
      <Words size="small" tone="second">
        {texts.inDays}
      </Words>
      {kinds.map((kind) => (
        <FormField
          key={kind}
          {...number}
          name={kind}
          label={kindNames[kind]}
          help={[texts.ifEmpty(daysText(otherwise[kind])), kindHelp[kind]].filter(Boolean).join(' ')}
          testID={`days-${kind}`}
        />
      ))}
      {!camera && (
        <>
          <Words bold heading={3}>
            {texts.disk}
          </Words>
          <FormField
            {...number}
            name="share"
            label={texts.maxShare}
            help={texts.ifEmpty(`${defaultDiskShare * 100} %`)}
            testID="retention-share"
          />
          <FormField
            {...number}
            name="free"
            label={texts.minFree}
            help={texts.ifEmpty(`${defaultFreeGigabytes} GB`)}
            testID="retention-free"
          />
          <Words size="small" tone="second">
            {texts.limitHelp}
          </Words>
        </>
      )}
    </Sheet>
  );
}

/** As it is sent: what is empty is left out. */
function changed(before: Retention, camera: string | undefined, kinds: readonly RetentionKind[], filled: Filled): Retention {
  const days = Object.fromEntries(kinds.flatMap((kind) => (filled[kind].trim() === '' ? [] : [[kind, Number(filled[kind])]])));
  const hasDays = Object.keys(days).length > 0;
  if (camera !== undefined) {
    const others = (before.cameras ?? []).filter((c) => c.camera !== camera);
    const cameras = [...others, ...(hasDays ? [{ camera, days }] : [])];
    const { cameras: _, ...rest } = before;
    return cameras.length ? { ...rest, cameras } : rest;
  }
  const numberOf = (text: string) => (text.trim() === '' ? undefined : Number(text.replace(',', '.')));
  const [share, free] = [numberOf(filled.share), numberOf(filled.free)];
  return {
    ...(hasDays ? { days } : {}),
    ...(before.cameras ? { cameras: before.cameras } : {}),
    ...(share === undefined ? {} : { maxDiskShare: share / 100 }),
    ...(free === undefined ? {} : { minFreeGigabytes: free }),
  };
}
