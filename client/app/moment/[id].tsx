import { useLocalSearchParams } from 'expo-router';
import { MomentScreen } from '../../features/moment/MomentScreen';

export default function MomentRoute() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <MomentScreen id={id} />;
}
