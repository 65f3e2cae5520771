import { useLocalSearchParams } from 'expo-router';
import { WalkScreen } from '../../features/walk/WalkScreen';

export default function WalkRoute() {
  const { camera } = useLocalSearchParams<{ camera?: string }>();
  return <WalkScreen camera={camera} />;
}
