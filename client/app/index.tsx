import { NowScreen } from '../features/now/NowScreen';

export default NowScreen;
