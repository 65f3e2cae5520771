// What an area is set to, since when, and what that means; switched by a touch.

import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { Card } from '../../ui/Surface';
import { ago } from '../../ui/times';
import { Words } from '../../ui/Words';
import { useModesQuery } from '../../state/api/modes';
import { every } from '../../state/api/every';
import type { CameraAnswer, Site } from '../../state/api/types';
import { useNow } from '../../state/useNow';
import { ModeChoice } from './ModeChoice';
import { texts } from './words';

/** Once a planned switch has been, the next one is asked for. */
const plannedMs = 60_000;

type Props = { area: Site['areas'][number]; site: Site; rules: readonly Rule[]; cameras: readonly CameraAnswer[] };

export function Armed({ area, site, rules, cameras }: Props) {
  const now = useNow();
  const { data } = useModesQuery(undefined, every(plannedMs));
  const planned = data?.planned.find((p) => p.area === area.id);
  const current = site.areaModes.find((m) => m.area === area.id);
  const mode = site.modes.find((m) => m.id === current?.mode);
  const here = rules.filter((r) => r.cameras.some((c) => cameras.find((k) => k.id === c)?.area === area.id));
  const active = here.filter((r) => (r.on ?? true) && (!r.modes || r.modes.includes(current?.mode ?? '')));
  return (
    <Card>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'baseline', flexWrap: 'wrap', columnGap: 8 }}>
        <Words size="lead" bold heading={2} testID="mode-now">
          {area.name}: {mode?.name ?? texts.noMode}
        </Words>
        {current?.by ? (
          <Words size="small" tone="second">
            {texts.sinceBy(ago(current.since, now, site.settings.timezone), current.by)}
          </Words>
        ) : null}
      </View>
      <Words tone={mode?.armed && active.length === 0 ? 'attentionInk' : 'second'}>{meaning(active, mode?.armed ?? false, site)}</Words>
      {planned && (
        <Words size="small" tone="second">
          {texts.untilThen(
            ago(planned.at, now, site.settings.timezone),
            site.modes.find((m) => m.id === planned.mode)?.name ?? planned.mode,
          )}
        </Words>
      )}
      <ModeChoice site={site} areas={[area.id]} label={texts.modeOf(area.name)} current={current?.mode} testID="mode" />
    </Card>
  );
}

/** What this mode will do, in a sentence; a mode that does nothing says so. */
function meaning(active: readonly Rule[], armed: boolean, site: Site): string {
  if (active.length === 0) return armed ? texts.armedButNoRuleIs : texts.noRuleIsActiveIn;
  const waiting = active.filter((r) => r.schedule && !site.schedules.find((h) => h.id === r.schedule)?.on);
  const names = active.map((r) => `“${r.name}”`).join(', ');
  const verb = active.length === 1 ? 'is' : 'are';
  return waiting.length === active.length ? texts.activeInThisModeBut(names, verb) : texts.active(names, verb);
}
