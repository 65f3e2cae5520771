import { useLocalSearchParams } from 'expo-router';
import { SiteScreen } from '../../features/site/SiteScreen';

export default function SitePageRoute() {
  const { page } = useLocalSearchParams<{ page: string }>();
  return <SiteScreen page={page} />;
}
