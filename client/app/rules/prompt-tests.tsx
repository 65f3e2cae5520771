import { useLocalSearchParams } from 'expo-router';
import { PromptTests } from '../../features/prompt-tests/PromptTests';

export default function PromptTestsRoute() {
  const { rule } = useLocalSearchParams<{ rule: string }>();
  return <PromptTests id={rule} />;
}
