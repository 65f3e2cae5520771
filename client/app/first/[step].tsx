import { useLocalSearchParams } from 'expo-router';
import { FirstVisit } from '../../features/first-visit/FirstVisit';

export default function FirstVisitRoute() {
  const { step } = useLocalSearchParams<{ step: string }>();
  return <FirstVisit step={step} />;
}
