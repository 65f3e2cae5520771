import { SiteScreen } from '../../features/site/SiteScreen';

export default SiteScreen;
