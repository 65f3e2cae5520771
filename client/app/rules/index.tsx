import { useLocalSearchParams } from 'expo-router';
import { RulesScreen } from '../../features/rules/RulesScreen';

export default function RulesRoute() {
  const { new: isNew } = useLocalSearchParams<{ new?: string }>();
  return <RulesScreen key={isNew} isMaking={isNew !== undefined} />;
}
