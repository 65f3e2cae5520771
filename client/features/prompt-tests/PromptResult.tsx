// The result of a prompt on one event: what was answered, and which checks hold.

import { View } from 'react-native';
import type { PromptTestResult } from '../../state/api/types';
import { Thumb } from '../../picture/Thumb';
import { Glyph } from '../../ui/Glyph';
import { Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { moneyWords, secondsWords } from '../ai-services/words';
import { texts } from './words';

export function PromptResult({
  result: r,
  checks,
  name,
  currency,
}: {
  result: PromptTestResult;
  checks: readonly string[];
  name: string;
  currency: string | null | undefined;
}) {
  const p = usePalette();
  return (
    <View style={{ flexGrow: 1, flexBasis: 280, gap: 4 }}>
      <Words size="small" tone="second">
        {`${name} · ${secondsWords(r.seconds)}${r.cost === null ? '' : ` · ${moneyWords(r.cost, currency)}`}`}
      </Words>
      <Words tone={r.line === null ? 'attentionInk' : 'ink'}>{r.line ?? r.why ?? texts.noUsableAnswer}</Words>
      {r.before && (
        <Words size="small" tone="second">
          {texts.before(r.before)}
        </Words>
      )}
      {r.problems.length > 0 && (
        <Words size="small" tone="attentionInk">
          {r.problems.join('; ')}
        </Words>
      )}
      {checks.map((check, i) => (
        <Row key={check} style={{ gap: 4 }}>
          <Glyph name={r.holds[i] ? 'check' : 'close'} size={16} colour={r.holds[i] ? p.work : p.attentionInk} />
          <Words size="small" tone={r.holds[i] ? 'second' : 'attentionInk'}>
            {check}
          </Words>
        </Row>
      ))}
      <Row>
        {r.pictures.map((picture) => (
          <Thumb key={picture} source={picture} box={null} size={{ width: 96, height: 54 }} />
        ))}
      </Row>
    </View>
  );
}
