import { useLocalSearchParams } from 'expo-router';
import { RuleEditor } from '../../features/rules/RuleEditor';
import type { PartName } from '../../features/rules/wording';

export default function RuleRoute() {
  const { rule, part } = useLocalSearchParams<{ rule: string; part?: PartName }>();
  return <RuleEditor id={rule} part={part} />;
}
