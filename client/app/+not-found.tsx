import { useRouter } from 'expo-router';
import { Button, Empty, Page } from '../ui/Surface';

export default function NotFound() {
  const router = useRouter();
  return (
    <Page>
      <Empty words="There is nothing at this address." />
      <Button words="Go to Now" onPress={() => router.replace('/')} />
    </Page>
  );
}
