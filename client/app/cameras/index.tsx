import { CamerasScreen } from '../../features/cameras/CamerasScreen';

export default CamerasScreen;
