import { useLocalSearchParams } from 'expo-router';
import { TriesScreen } from '../../features/tries/TriesScreen';

export default function TriesRoute() {
  const { rule } = useLocalSearchParams<{ rule: string }>();
  return <TriesScreen id={rule} />;
}
