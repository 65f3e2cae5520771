import { RulesScreen } from '../../features/rules/RulesScreen';

export default RulesScreen;
