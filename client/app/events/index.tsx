import { EventsScreen } from '../../features/events/EventsScreen';

export default EventsScreen;
