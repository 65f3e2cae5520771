import { useLocalSearchParams } from 'expo-router';
import { TriesScreen } from '../../features/prompt-tests/PromptTests';

export default function TriesRoute() {
  const { rule } = useLocalSearchParams<{ rule: string }>();
  return <TriesScreen id={rule} />;
}
