import { useRouter } from 'expo-router';
import { Button, Empty, Page } from '../ui/Surface';

export default function NotFound() {
  const router = useRouter();
  return (
    <Page>
      <Empty words="Page not found." />
      <Button words="Go to Now" onPress={() => router.replace('/')} />
    </Page>
  );
}
