import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { Button } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { EventView } from './EventView';
import { texts } from './words';

export function EventScreen({ id }: { id: string }) {
  const router = useRouter();
  const { page } = usePalette();
  return (
    <View style={{ flex: 1, backgroundColor: page }}>
      <View style={{ padding: 8, paddingBottom: 0, alignItems: 'flex-start' }}>
        <Button glyph="back" words={texts.events} onPress={() => router.navigate('/events')} />
      </View>
      <EventView id={id} />
    </View>
  );
}
