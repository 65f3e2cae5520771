import { useLocalSearchParams } from 'expo-router';
import { CameraScreen } from '../../features/cameras/CameraScreen';

export default function CameraRoute() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <CameraScreen id={id} />;
}
