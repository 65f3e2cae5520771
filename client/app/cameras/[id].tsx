import { useLocalSearchParams } from 'expo-router';
import { CameraScreen } from '../../features/cameras/CameraScreen';

export default function CameraRoute() {
  const { id, draw } = useLocalSearchParams<{ id: string; draw?: string }>();
  return <CameraScreen key={draw} id={id} isDrawn={draw !== undefined} />;
}
