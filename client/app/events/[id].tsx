import { useLocalSearchParams } from 'expo-router';
import { MomentScreen } from '../../features/event/EventScreen';

export default function MomentRoute() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <MomentScreen id={id} />;
}
