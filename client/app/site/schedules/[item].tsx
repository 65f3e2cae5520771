import { useLocalSearchParams } from 'expo-router';
import { SiteScreen } from '../../../features/site/SiteScreen';

export default function ScheduleRoute() {
  const { item } = useLocalSearchParams<{ item: string }>();
  return <SiteScreen page="schedules" item={item} />;
}
